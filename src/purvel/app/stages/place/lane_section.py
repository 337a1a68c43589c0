"""The lane section: a side view along the picked machine's feed line, with table, board, floor and everything
that stands under or in it.
"""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.app.last import Last
from purvel.app.plan.label_layout import Label, Spot
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.picture import Picture
from purvel.app.workspace import Workspace
from purvel.libraries import np
from purvel.review import Figures
from purvel.review.place.answers import PlaceAnswers
from purvel.review.place.lane_rules import lane_grade
from purvel.shop import Shop, Thing
from purvel.shop.parts import name_of
from purvel.shop.scenes import is_asleep
from purvel.space.lanes import Lane
from purvel.space.round_zones import RoundZone
from purvel.space.strips import extent_along

FARTHEST = 9.0  # m of lane that are drawn either way


class LaneSection(Picture):
    """The instrument of placing."""

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(theme)
        self.workspace, self.reviews = workspace, reviews
        self._shown = Last()
        self.setMinimumHeight(120)
        self.setAccessibleName("Lane section")

    def show_shop(self, shop: Shop, view: View) -> None:
        """Shows a shop, along the lane of what is picked; a review of it changes nothing here."""
        if not self._shown.is_same(shop, view, self.theme.palette, self.theme.pixels):
            self.update()

    def draw(self, sheet: Sheet) -> None:
        thing = self.workspace.shown.thing(self.workspace.picked or "")
        place = self.reviews.answers().of(PlaceAnswers)
        lanes = place.lanes
        shortest = min(lanes.values(), key=lambda lane: lane.longest_board - lane.stock_length, default=None)
        lane = shortest if thing is None else lanes.get(thing.id, shortest)
        zone = None if thing is None else place.round_zone(thing)
        if zone is not None:
            self._say_round(sheet, zone)
        elif lane is None:
            asleep = is_asleep(self.workspace.base, self.workspace.view.now.scene)
            self.say_nothing_yet(
                sheet,
                "Nobody works in this scene, so nothing is fed. Pick the scene to change that."
                if asleep
                else "Place a machine to see the section along its lane.",
            )
        else:
            self._draw(sheet, lane)

    def _draw(self, sheet: Sheet, one: Lane) -> None:
        palette, painter = sheet.palette, sheet.painter
        stops = self._stop_words(one)
        wide = sum(sheet.measure(text, 0.85) for text in stops) + 52.0 > self.width()
        view = _View(
            one,
            self.width(),
            self.theme.pixels * 1.9 + 4,
            self.height() - self.theme.pixels * (2.9 if wide else 1.8),
        )
        painter.setPen(sheet.pen(palette.wall, 3))
        painter.drawLine(view.at(-view.reach_in, 0), view.at(view.reach_out, 0))
        self._bodies(sheet, one, view)
        colour = palette.grade(lane_grade(one))
        low, high = view.at(0, one.low).y(), view.at(0, one.high).y()
        band = QRectF(view.at(-min(one.into.length, FARTHEST), high).x(), high, 0, low - high)
        band.setRight(view.at(min(one.out.length, FARTHEST), 0).x())
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(sheet.brush(colour, 0.30))
        painter.drawRect(band.adjusted(0, -3, 0, 3))
        begins, ends = one.board
        if ends - begins > 0.03:
            across = (ends - begins) * view.scale
            plank = QRectF(view.at(begins, 0).x(), min(high, low - 5), across, max(5.0, low - high))
            painter.setPen(sheet.pen(palette.wood_edge, 1.2))
            painter.setBrush(sheet.brush(palette.wood))
            painter.drawRect(plank)
            sheet.keep_clear(plank, 2.0)
        painter.setPen(sheet.pen(palette.ink, 1.5, dashes=(3, 3)))
        painter.drawLine(view.at(0, 0), view.at(0, view.height * 0.92))
        self._verdict(sheet, one, colour)
        self._stops(sheet, stops, view, wide)

    def _say_round(self, sheet: Sheet, zone: RoundZone) -> None:
        """Where stock is turned there is no lane to cut through: the plan shows where it lies."""
        say = Figures(self.workspace.shown.units)
        name, board = name_of(self.workspace.shown, zone.thing), say.length(zone.length)
        words = "all round" if zone.is_all_round else f"in {zone.share:.0%} of all directions"
        self.say_nothing_yet(
            sheet,
            f"{name}: a board of {board} lies {words}, turned about the mark at {say.length(zone.low)} height."
            " The plan shows which.",
        )

    def _verdict(self, sheet: Sheet, one: Lane, colour: str) -> None:
        shop = self.workspace.shown
        say = Figures(shop.units)
        longest = f"{'cuts anywhere' if one.across else 'longest board'} {say.length(one.longest_board)}"
        end = sheet.heading((f"{name_of(shop, one.thing)}: {longest}", longest), colour, self.width(), 1.15)
        rest = f"table at {say.length(one.low)}, "
        rest += (
            f"trims {say.length(one.trims)}" if one.across else f"{say.length(one.hand_room)} kept for hands"
        )
        if one.largest_sheet:
            size = one.largest_sheet
            rest += f";  largest sheet {say.length(size.along)} × {say.length(size.across)}"
        if end + 20 + sheet.measure(rest) < self.width():
            sheet.text(QPointF(end + 20, self.theme.pixels), rest, sheet.palette.pencil, centre=False)

    def _stop_words(self, one: Lane) -> list[str]:
        """How far the board runs either way and what stops it."""
        shop = self.workspace.shown
        say = Figures(shop.units)
        texts = []
        words = ("left", "right") if one.across else ("in", "out")
        for run, word in zip((one.into, one.out), words):
            stopper = (
                name_of(shop, run.stopped_by[1])
                if run.stopped_by and run.stopped_by[1]
                else "the ceiling"
                if run.stopped_by
                else "nothing"
            )
            texts.append(f"{word} {say.length(run.length)}, then {stopper}")
        return texts

    def _stops(self, sheet: Sheet, texts: list[str], view: _View, wide: bool) -> None:
        """Under the floor line, each on its side of the blade, or one under the other where they are too
        wide.
        """
        into, out = (sheet.measure(text, 0.85) for text in texts)
        left, middle, right = 8.0, view.middle, self.width() - 8.0
        y = view.bottom + self.theme.pixels * 0.9
        out_left = left if wide else max(left + into + 24, min(middle + 12, right - out))
        in_left = left if wide else max(left, min(middle - 12 - into, out_left - 24 - into))
        sheet.text(QPointF(in_left, y), texts[0], sheet.palette.ink, factor=0.85, centre=False)
        sheet.text(
            QPointF(out_left, y + self.theme.pixels * (1.1 if wide else 0.0)),
            texts[1],
            sheet.palette.ink,
            factor=0.85,
            centre=False,
        )

    def _bodies(self, sheet: Sheet, one: Lane, view: _View) -> None:
        """Everything within the strip, as it stands beside the floor line; what blocks is darker."""
        palette, plan, shop = (
            sheet.palette,
            self.reviews.answers().of(PlaceAnswers).ground,
            self.workspace.shown,
        )
        line = (np.array([one.origin]), np.array([one.direction]), np.array([[one.width]]))
        near, far = (ends[0, 0] for ends in extent_along(plan.pieces, *line))
        for i in np.flatnonzero(np.isfinite(near)):
            kind, item = plan.names[i]
            low, high = max(float(plan.bottom[i]), 0.0), min(float(plan.top[i]), view.height)
            if high <= low or far[i] < -view.reach_in or near[i] > view.reach_out:
                continue
            box = QRectF(
                view.at(max(float(near[i]), -view.reach_in), high),
                view.at(min(float(far[i]), view.reach_out), low),
            )
            own = kind == "thing" and item == one.thing
            blocks = plan.bottom[i] < one.high and plan.top[i] > one.low and not own
            if kind == "wall":
                box = QRectF(box.left() - 3, box.top(), 6, box.height())
            sheet.painter.setPen(
                sheet.pen(
                    palette.mend if blocks and kind == "thing" else palette.wood_edge,
                    2.5 if blocks and kind == "thing" else 1.5,
                )
            )
            colour = palette.wall if kind in ("wall", "outside") else palette.wood if own else palette.storage
            sheet.painter.setBrush(sheet.brush(colour, 1.0 if blocks or own else 0.55))
            sheet.painter.drawRect(box)
            sheet.keep_clear(box, 1.0, item)
            thing = shop.thing(item)
            if thing is not None:
                self._body_name(sheet, thing, box, own)

    def _body_name(self, sheet: Sheet, thing: Thing, box: QRectF, own: bool) -> None:
        name = thing.name or thing.id
        inside = tuple(
            Spot(QPointF(box.center().x(), box.top() + share * box.height()), home=box)
            for share in (0.7, 0.5, 0.3)
        )
        upright = (Spot(box.center(), upright=True, home=box),)
        above = tuple(
            Spot(QPointF(box.center().x() + aside, box.top() - self.theme.pixels * up))
            for up in (0.8, 1.8, 2.8)
            for aside in (0.0, 20.0, -20.0)
        )
        texts = (name, name.replace(" ", "\n", 1))
        sheet.label(
            Label(
                texts,
                (*inside, *upright, *above),
                sheet.palette.ink,
                factor=0.8,
                rank=1 if own else 2,
                must=False,
                owner=thing.id,
            )
        )


class _View:
    """How the section lies in the widget: the blade at `middle`, the same scale up and along."""

    def __init__(self, one: Lane, width: float, top: float, bottom: float) -> None:
        self.bottom = bottom
        self.reach_in, self.reach_out = (
            min(one.into.length, FARTHEST) + 0.5,
            min(one.out.length, FARTHEST) + 0.5,
        )
        self.height = max(2.2, one.high + 0.4)
        self.scale = min((width - 28.0) / (self.reach_in + self.reach_out), (bottom - top) / self.height)
        self.middle = width / 2 + (self.reach_in - self.reach_out) / 2 * self.scale

    def at(self, u: float, z: float) -> QPointF:
        """`u` metres beyond the blade, `z` above the floor."""
        return QPointF(self.middle + u * self.scale, self.bottom - z * self.scale)
