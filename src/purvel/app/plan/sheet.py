"""The drawing sheet: from metres to pixels, and pens as on a good hand drawing.

Used for the window and for print alike.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QBrush, QColor, QFont, QPainter, QPen, QPicture, QPolygonF

from purvel.app.plan import pens
from purvel.app.plan.label_layout import (
    SKIP,
    Chosen,
    Edges,
    Key,
    Label,
    LabelLayout,
    Lettering,
    Obstacle,
    Spot,
    edges_of,
    look_of,
)
from purvel.app.plan.stamps import Stamp, Stamps
from purvel.app.theme import Palette

Point = tuple[float, float]


Drawn = tuple[Key, object, "Callable[[Sheet], None]"]
"""What may be a stamp: its key, what it is of, and how it is drawn."""


class Sheet:
    """A painter with a scale: plan metres (y up) to device units (y down)."""

    def __init__(
        self,
        painter: QPainter,
        palette: Palette,
        scale: float,
        origin: QPointF,
        pixels: int,
        *,
        tabular: bool = True,
        before: Lettering | None = None,
        keeps: bool = False,
        stamps: Stamps | None = None,
    ) -> None:
        self.tabular = tabular
        self._stamps = stamps
        self._before, self._keeps = before, keeps
        self.lettering: Lettering | None = None  # how `set_labels` has set the words
        self.painter, self.palette, self.scale = painter, palette, scale
        self.origin, self.pixels = origin, pixels
        self._words: list[Label] = []
        self._board = LabelLayout()

    def stamp(self, key: Key, of: object, draw: Callable[[Sheet], None]) -> None:
        """Draws on a sheet like this one, or again what that came to when the key was equal and of the very
        same object.
        """
        if self._stamps is None:
            draw(self)
        else:
            self._take_over(self._stamps.draw(self.painter, (*key, id(of)), lambda: self._made(of, draw)))

    def stamp_together(self, key: Key, parts: Callable[[], Iterable[Drawn]]) -> None:
        """Draws what would each be a stamp, one over the other, or again what they came to together when the
        key was equal: it names all of them.
        """
        if self._stamps is None:
            for _, _, draw in parts():
                draw(self)
        else:
            self._take_over(
                self._stamps.draw_together(
                    self.painter,
                    key,
                    lambda: (((*one, id(of)), partial(self._made, of, draw)) for one, of, draw in parts()),
                )
            )

    def _take_over(self, made: Stamp) -> None:
        self._board.take_over(made.board)
        self._words += made.words

    def _made(self, of: object, draw: Callable[[Sheet], None]) -> Stamp:
        lines = QPicture()
        painter = QPainter(lines)
        painter.setRenderHints(self.painter.renderHints())
        other = Sheet(painter, self.palette, self.scale, self.origin, self.pixels, tabular=self.tabular)
        draw(other)
        painter.end()
        return Stamp(lines, other._board, other._words, of)

    def at(self, x: float, y: float) -> QPointF:
        """A plan point on the sheet."""
        return QPointF(self.origin.x() + x * self.scale, self.origin.y() - y * self.scale)

    def polygon(self, points: Iterable[Sequence[float]]) -> QPolygonF:
        """Plan points as a polygon on the sheet."""
        x, y, scale = self.origin.x(), self.origin.y(), self.scale
        return QPolygonF([QPointF(x + float(p[0]) * scale, y - float(p[1]) * scale) for p in points])

    def pen(
        self,
        colour: str,
        width: float = 1.0,
        style: Qt.PenStyle = Qt.PenStyle.SolidLine,
        dashes: Sequence[float] = (),
    ) -> QPen:
        """A flat pen; `dashes` in units of its width."""
        return pens.pen(colour, width, style, tuple(dashes))

    def brush(
        self, colour: str, alpha: float = 1.0, style: Qt.BrushStyle = Qt.BrushStyle.SolidPattern
    ) -> QBrush:
        """A brush, possibly hatched."""
        return pens.brush(colour, alpha, style)

    def fill(self, points: Iterable[Sequence[float]], brush: QBrush | None, pen: QPen | None) -> None:
        """Draws a polygon."""
        self.painter.setBrush(brush or QBrush(Qt.BrushStyle.NoBrush))
        self.painter.setPen(pen or QPen(Qt.PenStyle.NoPen))
        self.painter.drawPolygon(self.polygon(points))

    def line(self, points: Sequence[Sequence[float]], pen: QPen) -> None:
        """Draws a polyline."""
        self.painter.setPen(pen)
        self.painter.setBrush(QBrush(Qt.BrushStyle.NoBrush))
        self.painter.drawPolyline(self.polygon(points))

    # ---- lettering

    def font(self, factor: float = 0.87, *, bold: bool = False) -> QFont:
        """The drawing's lettering, with tabular figures."""
        return pens.letters(max(9, round(self.pixels * factor)), bold, self.tabular)

    def size_of(self, text: str, factor: float = 0.87, *, bold: bool = False) -> tuple[float, float]:
        """Width and height of a text of one or more lines [device units]."""
        return pens.text_size(text, max(9, round(self.pixels * factor)), bold)

    def measure(self, text: str, factor: float = 0.87, *, bold: bool = False) -> float:
        """How wide a text is [device units]."""
        return self.size_of(text, factor, bold=bold)[0]

    def text(
        self,
        where: QPointF,
        text: str,
        colour: str,
        *,
        factor: float = 0.87,
        bold: bool = False,
        plate: bool = False,
        centre: bool = True,
        upright: bool = False,
    ) -> QRectF:
        """Letters a text at a point on the sheet, on a plate of paper where asked for; `upright` reads
        upwards. Returns the box.
        """
        width, height = self.size_of(text, factor, bold=bold)
        box = QRectF(-width / 2 if centre else 0.0, -height / 2, width, height)
        taken = QRectF(box.top(), box.left(), height, width) if upright else box
        taken = taken.translated(where)

        def letter(sheet: Sheet) -> None:
            painter = sheet.painter
            painter.save()
            painter.translate(where)
            if upright:
                painter.rotate(-90)
            if plate:
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(self.brush(self.palette.sheet, 0.88))
                painter.drawRoundedRect(box.adjusted(-4, -1, 4, 1), 3, 3)
            painter.setFont(self.font(factor, bold=bold))
            painter.setPen(QColor(colour))
            flags = Qt.AlignmentFlag.AlignHCenter if centre else Qt.AlignmentFlag.AlignLeft
            painter.drawText(box.adjusted(-2, 0, 2, 0), int(flags | Qt.AlignmentFlag.AlignVCenter), text)
            painter.restore()
            sheet._board.take(taken.adjusted(-3, -1, 3, 1))

        look = (where.x(), where.y(), text, colour, factor, bold, plate, centre, upright)
        self.stamp(("text", *look), None, letter)
        return taken

    def shortened(self, text: str, width: float, factor: float = 0.87) -> str:
        """A text made to fit by an ellipsis in its middle."""
        return pens.shortened(text, self.font(factor), width)

    def heading(self, ways: Sequence[str], colour: str, width: float, factor: float = 1.0) -> float:
        """A picture's bold heading at its top left, in the first of several ways to say it that fits; the
        last is made to fit. Returns its right end.
        """
        room = width - 16.0
        text = next((way for way in ways if self.measure(way, factor, bold=True) <= room), ways[-1])
        factor *= min(1.0, room / self.measure(text, factor, bold=True))
        return self.text(
            QPointF(8.0, self.pixels), text, colour, factor=factor, bold=True, centre=False
        ).right()

    def label(self, word: Label) -> None:
        """Keeps a word until `set_labels`, when it is set where it covers least."""
        self._words.append(word)

    def keep_clear(self, box: QRectF, weight: float = 1.0, owner: str = "") -> None:
        """Words keep off this box; what it belongs to does not mind its own name."""
        self._board.keep_clear(Obstacle(box, weight, owner))

    def clear_corner(self, size: QSizeF, room: Iterable[Sequence[float]], *, upper: bool) -> QRectF | None:
        """The first corner of the page where a box clears the room, given by its corners [m]; the left ones
        first, and of these the upper or the lower. None where every corner lies on the room.
        """
        page = QRectF(self.painter.viewport()).adjusted(8, 8, -8, -8)
        tops = (page.top(), page.bottom() - size.height())
        taken = self.polygon(room).boundingRect().adjusted(-4, -4, 4, 4)
        boxes = (
            QRectF(QPointF(left, top), size)
            for left in (page.left(), page.right() - size.width())
            for top in (tops if upper else tops[::-1])
        )
        return next((box for box in boxes if not box.intersects(taken)), None)

    def set_labels(self) -> None:
        """Sets all words that wait, the lowest rank first; as before, where they waited the same before. Of
        a sheet that keeps, those that have a place already stay there, whatever the others do.
        """
        wanted = self._board.wanted(self._words, QRectF(self.painter.viewport()))
        self._words.clear()
        if self._before is not None and self._before == wanted:
            self.lettering = replace(wanted, chosen=self._before.chosen)
            self._letter_again(list(zip(wanted.words, self.lettering.chosen)))
            return
        kept = self._before.by_key() if self._before is not None and self._keeps else {}
        chosen: list[Chosen] = [kept.get(word.key) for word in wanted.words]
        stays = [word.key in kept for word in wanted.words]
        self._letter_again([(word, one) for word, one, known in zip(wanted.words, chosen, stays) if known])
        for place, (word, known) in enumerate(zip(wanted.words, stays)):
            if not known:
                chosen[place] = self._place(word, wanted.page)
                self._letter(word, chosen[place])
        self.lettering = replace(wanted, chosen=chosen)

    def _letter_again(self, words: Sequence[tuple[Label, Chosen]]) -> None:
        """Letters words where they were; those that are followed by something one by one."""
        plain = [(word, one) for word, one in words if one is not None and word.then is None]
        key = ("words", *((id(word), *look_of(one)) for word, one in plain))
        self.stamp_together(
            key,
            lambda: (
                (("word", *look_of(one)), word, partial(Sheet._letter, word=word, chosen=one))
                for word, one in plain
            ),
        )
        for word, one in words:
            if word.then is not None:
                self._letter(word, one)

    def _place(self, word: Label, page: QRectF) -> Chosen:
        """Where a word covers least; None where it is to be left out."""
        ways = [(text, spot) for text in word.texts for spot in word.spots]
        if not ways:
            return None
        sizes = {text: self.size_of(text, word.factor, bold=word.bold) for text in word.texts}
        boxes, homes = list[Edges](), list[Edges]()
        known = dict[int, Edges]()  # many spots have one home
        for text, spot in ways:
            (width, height), x, y = sizes[text], spot.middle.x(), spot.middle.y()
            across, down = (height / 2, width / 2) if spot.upright else (width / 2, height / 2)
            boxes.append((x - across, y - down, x + across, y + down))
            home = spot.home
            homes.append(boxes[-1] if home is None else known.setdefault(id(home), edges_of(home)))
        costs = self._board.costs(boxes, homes, word.owner, page)
        if not costs[0]:
            return word.factor, *ways[0]  # where it covers nothing no other way is better
        best = min(range(len(ways)), key=lambda way: costs[way] + 0.01 * (way % len(word.spots)))
        covered, (text, spot) = costs[best], ways[best]
        if covered > SKIP and not word.must:
            smaller = 0.87 * word.factor
            return self._place(replace(word, factor=smaller), page) if smaller * self.pixels >= 11 else None
        return word.factor, text, spot

    def _letter(self, word: Label, chosen: Chosen) -> None:
        if chosen is None:
            return
        factor, text, spot = chosen
        if word.anchor is not None:
            self._lead(word, spot)
        box = self.text(
            spot.middle,
            text,
            word.colour,
            factor=factor,
            bold=word.bold,
            plate=word.plate,
            upright=spot.upright,
        )
        if word.then is not None:
            word.then(box)

    def _lead(self, word: Label, spot: Spot) -> None:
        assert word.anchor is not None
        away = spot.middle - word.anchor
        if away.manhattanLength() > self.pixels * 3.2:
            self.painter.setPen(self.pen(word.colour, 1.0))
            self.painter.drawLine(word.anchor, spot.middle)

    def dimension(self, a: Point, b: Point, text: str, colour: str, *, must: bool = True) -> None:
        """A thin dimension line with ticks and its figure, in the middle or where it covers less; in a crowd
        it is left out unless it must be there.
        """
        self.ticked(a, b, colour)
        start, along = self.at(*a), self.at(*b) - self.at(*a)
        spots = tuple(Spot(start + along * share) for share in (0.5, 0.3, 0.7, 0.15, 0.85))
        self.label(Label((text,), spots, colour, factor=0.87, bold=True, plate=True, rank=0, must=must))

    def ticked(self, a: Point, b: Point, colour: str) -> None:
        """A thin line with ticks at its ends."""
        pa, pb = self.at(*a), self.at(*b)
        painter = self.painter
        painter.setPen(self.pen(colour, 1.2))
        painter.drawLine(pa, pb)
        dx, dy = pb.x() - pa.x(), pb.y() - pa.y()
        size = max((dx * dx + dy * dy) ** 0.5, 1e-6)
        nx, ny = -dy / size * 5 + dx / size * 5, dx / size * 5 + dy / size * 5
        for end in (pa, pb):
            painter.drawLine(QPointF(end.x() - nx, end.y() - ny), QPointF(end.x() + nx, end.y() + ny))
