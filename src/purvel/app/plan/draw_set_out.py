"""Where things are set out from, on the plan: the marked corner of each and its two distances; chains of
dimensions along the walls.
"""

from __future__ import annotations

from itertools import pairwise

from PySide6.QtCore import QRectF

from purvel.app.plan.label_layout import Label, Spot
from purvel.app.plan.sheet import Sheet
from purvel.quantities import format_length
from purvel.quantities.systems import System
from purvel.shop import Shop
from purvel.space.chains import Chain, chains
from purvel.space.setout import set_out
from purvel.space.shell import Shell

_DOT = 3.0  # px: the mark at a corner
_SMALL = 0.8  # of the lettering
_NONE = 0.005  # m: what touches a wall needs no figure
_SHARES = (0.5, 0.35, 0.65, 0.2, 0.8)  # of a distance, where its figure may stand


def set_out_marks(sheet: Sheet, shop: Shop, shell: Shell) -> None:
    """The corner of each thing that is marked on the floor, and how far it is from two walls."""
    palette = sheet.palette
    for thing in shop.things:
        mark = set_out(thing, shell)
        if mark is None:
            continue
        at = sheet.at(*mark.spot)
        sheet.painter.setPen(sheet.pen(palette.accent, 1.4))
        sheet.painter.setBrush(sheet.brush(palette.accent))
        sheet.painter.drawEllipse(at, _DOT, _DOT)
        for one in mark.measures:
            if one.distance <= _NONE:
                continue
            sheet.line([mark.spot, one.foot], sheet.pen(palette.accent, 0.8, dashes=(6, 3)))
            spots = tuple(Spot(at + (sheet.at(*one.foot) - at) * share) for share in _SHARES)
            text = format_length(one.distance, shop.units)
            sheet.label(Label((text,), spots, palette.accent, factor=0.75, plate=True, rank=1))


def wall_chains(sheet: Sheet, shell: Shell, system: System) -> None:
    """Along each wall its openings, and how long it is in all; figures read along their wall."""
    for one in chains(shell):
        for start, end in pairwise(one.marks):
            _dimension(sheet, one, start, end, format_length(end - start, system), bold=True)


def opening_chains(sheet: Sheet, shell: Shell, system: System, off: float) -> None:
    """Along each wall with openings where they are, so far outside [m]; what has no room for its figure goes
    without.
    """
    for one in chains(shell, off):
        for start, end in pairwise(one.marks) if len(one.marks) > 2 else ():
            words = format_length(end - start, system)
            wide, _ = sheet.size_of(words, _SMALL)
            fits = wide < (end - start) * sheet.scale - 2 * _DOT
            _dimension(sheet, one, start, end, words if fits else "", bold=False)


def _dimension(sheet: Sheet, one: Chain, start: float, end: float, words: str, *, bold: bool) -> None:
    """One span of a chain."""
    a, b = one.at(start), one.at(end)
    sheet.ticked(a, b, sheet.palette.ink)
    line = QRectF(sheet.at(*a), sheet.at(*b)).normalized()
    if min(line.width(), line.height()) < _DOT:  # else the box of a slanting line is no line
        sheet.keep_clear(line.adjusted(-_DOT, -_DOT, _DOT, _DOT), 0.5)
    if words:
        along = one.side.along
        spot = Spot((sheet.at(*a) + sheet.at(*b)) / 2, abs(along[1]) > abs(along[0]))
        letters = Label((words,), (spot,), sheet.palette.ink, factor=_SMALL, bold=bold, plate=True, rank=0)
        sheet.label(letters)
