"""Money left as steps over the buying order, with what can be done at each: the instrument of spending."""

from __future__ import annotations

from collections.abc import Callable
from math import ceil, inf

from PySide6.QtCore import QPointF, QRectF, Qt

from purvel.app.plan.label_layout import Label, Spot
from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.catalogue import trade_operations
from purvel.money.balance import Bought
from purvel.review import Answers
from purvel.review.spend.answers import SpendAnswers
from purvel.review.spend.rules import money, months
from purvel.shop.money import Item
from purvel.shop.parts import name_of

WORDS = 13.0  # letters' sizes that the list of abilities takes
NARROW = 44.0  # letters' sizes of width below which there is no such list
_HOW = {"well": "well", "fair": "fairly", "rough": "roughly", None: "not"}


class MoneySteps(Picture):
    """The steps."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.setAccessibleName("Money left over the buying order")
        self.answers: Answers | None = None
        self.picked: str | None = None
        self.setMinimumHeight(120)

    def show_spending(self, answers: Answers, picked: str | None) -> None:
        """The list as it is."""
        self.answers, self.picked = answers, picked
        self.update()

    def draw(self, sheet: Sheet) -> None:
        steps = [] if self.answers is None else self.answers.of(SpendAnswers).steps
        if self.answers is None or not steps:
            self.say_nothing_yet(
                sheet,
                "Put what you want to buy on the list, and type what there is to spend, to see when there is money for it.",
            )
            return
        spend = self.answers.of(SpendAnswers)
        self._head(sheet, self.answers, steps)
        has_list = self.width() > NARROW * sheet.pixels and bool(spend.wants)
        right = WORDS * sheet.pixels if has_list else 0.0
        top, bottom, left = 2.2 * sheet.pixels, 1.7 * sheet.pixels, 4.6 * sheet.pixels
        box = QRectF(left, top, self.width() - left - right - 16, self.height() - top - bottom)
        self._chart(sheet, self.answers, steps, box)
        if has_list:
            self._abilities(sheet, spend, QRectF(self.width() - right, top, right, self.height() - top))

    def _head(self, sheet: Sheet, answers: Answers, steps: list[Bought]) -> None:
        palette, currency = sheet.palette, answers.shop.budget.currency
        first, last = steps[0], steps[-1]
        name = name_of(answers.shop, first.item)
        if last.month == inf:
            words = f"First {name}, {months(first.month)}; the list is {money(-min(s.left for s in steps), currency)} short"
            colour = palette.mend
        else:
            words = f"First {name}, {months(first.month)}; all of it {months(last.month)}, {money(last.left, currency)} left"
            colour = palette.good
        sheet.heading((words, f"First {name}"), colour, self.width(), 1.1)

    def _chart(self, sheet: Sheet, answers: Answers, steps: list[Bought], box: QRectF) -> None:
        """Money comes in along the slopes and goes at the steps; a bar at each, from the low prices to the
        high, says when that may be.
        """
        palette, budget, spend = sheet.palette, answers.shop.budget, answers.of(SpendAnswers)
        reachable = [step.month for step in (*steps, *spend.dear_steps) if step.month < inf]
        end = max(1.0, max(reachable, default=0.0) * 1.08)
        course = _course(
            steps, budget.start, budget.monthly, max((s.month for s in steps if s.month < inf), default=0.0)
        )
        high = max(1.0, *(value for _, value in course)) * 1.25

        def at(month: float, value: float) -> QPointF:
            return QPointF(box.left() + box.width() * month / end, box.bottom() - box.height() * value / high)

        sheet.painter.setPen(sheet.pen(palette.pencil, 1.2))
        sheet.painter.drawLine(at(0.0, 0.0), at(end, 0.0))
        self._scale(sheet, box, at, end, high / 1.25, budget.currency)
        sheet.painter.setPen(sheet.pen(palette.accent, 2.6))
        sheet.painter.setBrush(Qt.BrushStyle.NoBrush)
        sheet.painter.drawPolyline([at(*point) for point in course])
        for number, (step, cheap, dear) in enumerate(
            zip(steps, spend.cheap_steps, spend.dear_steps), start=1
        ):
            if step.month < inf:
                if step.item == self.picked:
                    sheet.painter.setPen(sheet.pen(palette.pencil, 4.0))
                    sheet.painter.drawLine(at(cheap.month, step.left), at(min(dear.month, end), step.left))
                self._step(
                    sheet,
                    answers,
                    step,
                    number,
                    at(step.month, step.left),
                    at(step.month, step.left + step.price),
                )

    def _step(
        self, sheet: Sheet, answers: Answers, step: Bought, number: int, spot: QPointF, top: QPointF
    ) -> None:
        palette, is_picked = sheet.palette, step.item == self.picked
        lacks = answers.of(SpendAnswers).ready(_item(answers, step.item)).lacks
        colour = palette.accent if is_picked else palette.mend if lacks else palette.ink
        sheet.painter.setPen(sheet.pen(colour, 1.6))
        sheet.painter.setBrush(sheet.brush(palette.sheet))
        sheet.painter.drawEllipse(spot, 4.5, 4.5)
        name = f"{number} {name_of(answers.shop, step.item)}"
        width, height = sheet.size_of(name, 0.8)
        rows = (0.6, 1.5, 2.4, 3.3)
        middles = [
            QPointF(top.x() + side, top.y() - row * height)
            for row in rows
            for side in (0.0, -width / 2.2, width / 2.2)
        ]
        label = Label(
            (name, str(number)),
            tuple(Spot(middle) for middle in middles),
            colour,
            factor=0.8,
            bold=is_picked,
            rank=0 if is_picked else 1,
            must=is_picked,
        )
        sheet.label(label)

    def _scale(
        self,
        sheet: Sheet,
        box: QRectF,
        at: Callable[[float, float], QPointF],
        end: float,
        high: float,
        currency: str,
    ) -> None:
        palette = sheet.palette
        step = max(1, ceil(end / 6))
        for month in range(0, int(end) + 1, step):
            spot = at(float(month), 0.0)
            word = "now" if month == 0 else f"{month} mo"
            sheet.text(
                QPointF(spot.x(), box.bottom() + 0.85 * sheet.pixels), word, palette.pencil, factor=0.75
            )
        for value in (0.0, high):
            spot = at(0.0, value)
            text = money(value, currency)
            left = QPointF(box.left() - 8 - sheet.measure(text, 0.75), spot.y())
            sheet.text(left, text, palette.pencil, factor=0.75, centre=False)

    def _abilities(self, sheet: Sheet, spend: SpendAnswers, box: QRectF) -> None:
        """What the jobs want, and how well it is done now and after."""
        palette, high = sheet.palette, 1.25 * sheet.pixels
        sheet.text(
            QPointF(box.left(), box.top() + high / 2),
            "Your jobs need",
            palette.pencil,
            factor=0.8,
            centre=False,
        )
        for number, operation in enumerate(spend.wants, start=1):
            y = box.top() + high * (number + 0.5)
            if y > box.bottom() - high / 2 or operation not in trade_operations():
                break
            now, after = spend.how(operation), spend.how(operation, after=True)
            colour = palette.mend if after is None else palette.good if now == after else palette.ink
            change = _HOW[now] if now == after else f"{_HOW[now]} → {_HOW[after]}"
            text = f"{trade_operations()[operation].name}: {change}"
            text = sheet.shortened(text, box.width() - 8, 0.8)
            sheet.text(QPointF(box.left(), y), text, colour, factor=0.8, centre=False)


def _item(answers: Answers, item: str) -> Item:
    return next(one for one in answers.shop.budget.items if one.id == item)


def _course(steps: list[Bought], start: float, monthly: float, end: float) -> list[tuple[float, float]]:
    """Corners of what is left over the months: up along the slope, down at each purchase."""
    found = [(0.0, start)]
    for step in steps:
        if step.month == inf:
            break
        found += [(step.month, step.left + step.price), (step.month, step.left)]
    month, left = found[-1]
    return [*found, (end, left + monthly * (end - month))]
