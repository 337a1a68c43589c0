"""The legs of a job as bars to scale, with what is carried and how it is turned: the instrument of flow."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize

from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.catalogue import trade_operations
from purvel.review import Figures
from purvel.review.flow.answers import FlowAnswers, HaulAnswer
from purvel.review.flow.rules import stock_words
from purvel.shop import Shop
from purvel.shop.parts import name_of
from purvel.space.legs import JobFlow, Leg

ROW = 1.75  # letters' heights that a leg takes
NAMES = 0.34  # of the width, for what a leg is called
WORDS = 0.30  # of the width, for what is carried


class LegsChart(Picture):
    """Bars of one job. It is as high as its legs ask for."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.setAccessibleName("Legs of the job")
        self.shop = Shop()
        self.flow: JobFlow | None = None
        self.hauls: list[HaulAnswer] | None = None  # None while they are searched
        self.asked = ""

    def show_job(self, shop: Shop, flow: JobFlow | None, flows: FlowAnswers | None, nothing: str) -> None:
        """A job's legs; `flows` where its long searches are done; `nothing` to say where there is no job."""
        self.shop, self.flow, self.asked = shop, flow, nothing
        self.hauls = flows.hauls(flow.job.id) if flows is not None and flow is not None else None
        rows = 0 if flow is None else len(flow.stations)
        self.setMinimumHeight(round((2.0 + ROW * rows) * self.theme.pixels) if rows else 60)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(400, self.minimumHeight())

    def draw(self, sheet: Sheet) -> None:
        if self.flow is None or not self.flow.stations:
            self.say_nothing_yet(sheet, self.asked)
            return
        say = Figures(self.shop.units)
        self._head(sheet, self.flow, say)
        legs = {leg.step: leg for leg in self.flow.legs}
        most = max((leg.distance for leg in self.flow.legs), default=0.0)
        for number in range(len(self.flow.stations)):
            top = (2.0 + ROW * number) * sheet.pixels
            self._row(
                sheet, number, legs.get(number), QRectF(0, top, self.width(), ROW * sheet.pixels), most, say
            )

    def _head(self, sheet: Sheet, flow: JobFlow, say: Figures) -> None:
        palette = sheet.palette
        verdict, colour = self._verdict(flow)
        total = f"{say.distance(flow.distance)} on foot"
        words = f"{flow.job.name}: {total}, {verdict}"
        sheet.heading((words, f"{total}, {verdict}", verdict), colour or palette.ink, self.width(), 1.1)

    def _verdict(self, flow: JobFlow) -> tuple[str, str]:
        palette = self.theme.palette
        if any(leg.way is None for leg in flow.legs):
            return "a station nobody gets to", palette.mend
        stuck = [one for one in self.hauls or () if one.stuck]
        if stuck:
            stop = name_of(self.shop, stuck[0].stuck[0])
            return f"the stock does not get to {stop}", palette.stop
        if any(station.thing is None for station in flow.stations):
            return "a step that nothing here does", palette.mend
        if self.hauls is None:
            return "carrying is being worked out …", palette.pencil
        return "the stock gets everywhere", palette.good

    def _row(
        self, sheet: Sheet, number: int, leg: Leg | None, box: QRectF, most: float, say: Figures
    ) -> None:
        assert self.flow is not None
        station = self.flow.stations[number]
        known = trade_operations().get(station.step.operation)
        what = station.step.operation if known is None else known.name
        where = "nothing here" if station.thing is None else name_of(self.shop, station.thing)
        middle, palette = box.center().y(), sheet.palette
        room = box.width() * NAMES - 14
        ways = (f"{number + 1}  {what}: {where}", f"{number + 1}  {where}")
        name = next((way for way in ways if sheet.measure(way) <= room), sheet.shortened(ways[1], room))
        colour = palette.mend if station.thing is None else palette.ink
        sheet.text(QPointF(8, middle), name, colour, centre=False)
        left, room = box.width() * NAMES, box.width() * (1 - NAMES - WORDS)
        if leg is not None and leg.way is not None and most > 0:
            self._bar(sheet, leg, QPointF(left, middle), room, most, say)
        elif leg is not None:
            sheet.text(QPointF(left, middle), "no way there", palette.mend, centre=False, bold=True)
        elif station.thing is not None:
            sheet.text(QPointF(left, middle), "stays there", palette.pencil, centre=False)
        self._carry(sheet, number, QPointF(box.width() * (1 - WORDS), middle), box.width() * WORDS - 8, say)

    def _bar(self, sheet: Sheet, leg: Leg, at: QPointF, room: float, most: float, say: Figures) -> None:
        """One bar as long as all that is walked on the leg, parted where one turns round."""
        text = say.distance(leg.distance)
        space = room - sheet.measure(text, bold=True) - 16
        length = max(2.0, space * leg.distance / most)
        high, palette = sheet.pixels * 0.8, sheet.palette
        colour = palette.accent if leg.distance == most else palette.air_mid
        sheet.painter.setPen(sheet.pen(colour, 1.2))
        sheet.painter.setBrush(sheet.brush(colour, 0.28))
        sheet.painter.drawRect(QRectF(at.x(), at.y() - high / 2, length, high))
        times = 2 * leg.walks - 1
        if length / times > 4:
            for k in range(1, times):
                x = at.x() + length * k / times
                sheet.painter.drawLine(QPointF(x, at.y() - high / 2), QPointF(x, at.y() + high / 2))
        sheet.text(QPointF(at.x() + length + 6, at.y()), text, palette.ink, bold=True, centre=False)

    def _carry(self, sheet: Sheet, number: int, at: QPointF, room: float, say: Figures) -> None:
        """What is carried there; a tick and how far it is turned, or a cross where it does not get there."""
        assert self.flow is not None
        station = self.flow.stations[number]
        stock = stock_words(station.stock, say)
        found = self._carried(number)
        if found is None or station.thing is None:
            sheet.text(at, sheet.shortened(stock, room), sheet.palette.pencil, centre=False, factor=0.8)
            return
        fits, turned = found
        mark = f"✓ turned {turned:.0f}°" if fits and turned >= 5 else "✓" if fits else "✗ jams"
        colour = sheet.palette.good if fits else sheet.palette.stop
        end = sheet.text(at, mark, colour, centre=False, factor=0.8, bold=True).right() + 8
        left = QPointF(end, at.y())
        rest = sheet.shortened(stock, at.x() + room - end, 0.8)
        sheet.text(left, rest, sheet.palette.pencil, centre=False, factor=0.8)

    def _carried(self, number: int) -> tuple[bool, float] | None:
        assert self.flow is not None
        station = self.flow.stations[number]
        for one in self.hauls or ():
            if one.haul.stock == station.stock and station.thing in one.carried:
                carried = one.carried[station.thing]
                return carried.fits, carried.turned
        return None
