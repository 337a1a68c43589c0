"""What is due when, from use: a bar for each duty, and the bin as it fills."""

from __future__ import annotations

from math import inf

from PySide6.QtCore import QPointF, QRectF

from purvel.app.plan.sheet import Sheet
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.review import Answers, Figures, Grade
from purvel.review.keep.answers import KeepAnswers
from purvel.review.keep.rules import SOON, bin_grade, days, due_grade
from purvel.shop.parts import name_of
from purvel.upkeep.bins import FULL
from purvel.upkeep.due import Due, day_of

ROW = 1.7  # letters' heights
NAMES = 0.46  # of the width


class DueChart(Picture):
    """Bars, the most pressing first."""

    def __init__(self, theme: Theme) -> None:
        super().__init__(theme)
        self.setAccessibleName("What is due when")
        self.answers: Answers | None = None
        self.picked: str | None = None

    def show_due(self, answers: Answers, picked: str | None) -> None:
        """The duties as they are."""
        self.answers, self.picked = answers, picked
        rows = len(answers.shop.upkeep.duties) + (answers.of(KeepAnswers).bin is not None)
        self.setMinimumHeight(round((2.3 + ROW * rows) * self.theme.pixels) if rows else 60)
        self.update()

    def draw(self, sheet: Sheet) -> None:
        keep = None if self.answers is None else self.answers.of(KeepAnswers)
        if self.answers is None or keep is None or (not keep.due and keep.bin is None):
            self.say_nothing_yet(
                sheet,
                "Add duties or a bin to see what is due when. Your jobs say how long each machine runs.",
            )
            return
        self._head(sheet, keep)
        top, row = 2.3 * sheet.pixels, ROW * sheet.pixels
        if keep.bin is not None:
            self._bin(sheet, self.answers, keep, QRectF(0, top, self.width(), row))
            top += row
        for number, one in enumerate(keep.due):
            self._duty(sheet, self.answers, one, QRectF(0, top + row * number, self.width(), row))

    def _head(self, sheet: Sheet, keep: KeepAnswers) -> None:
        grades = [due_grade(one) for one in keep.due]
        over, soon = grades.count(Grade.MEND), grades.count(Grade.WATCH)
        palette = sheet.palette
        if over:
            words = f"{over} due now" + (f", {soon} more within {SOON:.0f} days" if soon else "")
        elif soon:
            words = f"{soon} due within {SOON:.0f} days"
        else:
            words = "Nothing is due"
        colour = palette.grade(min(grades, default=Grade.GOOD))
        sheet.heading((words,), colour, self.width(), 1.1)

    def _bar(
        self, sheet: Sheet, box: QRectF, name: str, share: tuple[float, float], words: str, grade: Grade
    ) -> None:
        """A name, how much of the time has gone (from, to), and when it is due."""
        palette, middle = sheet.palette, box.center().y()
        colour = palette.grade(grade)
        sheet.text(
            QPointF(8, middle), sheet.shortened(name, box.width() * NAMES - 16), palette.ink, centre=False
        )
        left = box.width() * NAMES
        room = box.width() - left - sheet.measure(words, bold=True) - 22
        bar = QRectF(left, middle - box.height() * 0.3, max(room, 10.0), box.height() * 0.6)
        sheet.painter.setPen(sheet.pen(palette.rule, 1.0))
        sheet.painter.setBrush(sheet.brush(palette.paper))
        sheet.painter.drawRect(bar)
        for part, alpha in zip(share, (0.85, 0.30)):
            filled = QRectF(bar.left(), bar.top(), bar.width() * min(max(part, 0.0), 1.0), bar.height())
            sheet.painter.setPen(sheet.pen(colour, 1.2))
            sheet.painter.setBrush(sheet.brush(colour, alpha * 0.6))
            sheet.painter.drawRect(filled)
        sheet.text(QPointF(bar.right() + 10, middle), words, colour, bold=True, centre=False)

    def _duty(self, sheet: Sheet, answers: Answers, one: Due, box: QRectF) -> None:
        grade = due_grade(one)
        words = "by need" if one.days == inf else days(one.days)
        name = name_of(answers.shop, one.duty)
        self._bar(
            sheet, box, ("▸ " if one.duty == self.picked else "") + name, (one.gone, one.gone), words, grade
        )

    def _bin(self, sheet: Sheet, answers: Answers, keep: KeepAnswers, box: QRectF) -> None:
        """From how full it is at least to how full it may be."""
        bin_, found = answers.shop.upkeep.bin, keep.bin
        assert bin_ is not None and found is not None
        since = day_of(bin_.emptied_on) or keep.begun
        gone = (keep.today - since).days
        low, high = (gone / day * FULL for day in (found.days[1], found.days[0]))
        left = found.days[0] - gone
        grade = bin_grade((left, found.days[1] - gone))
        say = Figures(answers.shop.units)
        words = "may be full" if left <= 0 else f"full {days(left)} at the earliest"
        self._bar(sheet, box, f"Bin, {say.bulk(bin_.volume)}", (low, high), words, grade)
