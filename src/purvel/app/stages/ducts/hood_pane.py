"""A hood as it is designed, with the flow of the hood that is walked."""

from __future__ import annotations

from dataclasses import replace

from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from purvel.airflow.flows import HoodFlow
from purvel.airflow.hoods import HoodOpening, OpeningKind
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import beside, refilling
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.quantities.systems import System
from purvel.review import Answers, Figures
from purvel.review.ducts.hood_design import IDEAS, KINDS, designed
from purvel.shop.parts import name_of


class HoodPane(QWidget):
    """Nothing of it is in the shop: it is a sheet to reckon on."""

    def __init__(self) -> None:
        super().__init__()
        self.idea = "shroud"
        self.opening: HoodOpening = IDEAS[self.idea].opening
        self.distance = IDEAS[self.idea].distance
        self.flow, self.of = 0.0, ""
        self.units: System | None = None
        inner = QWidget()
        self.box = QVBoxLayout(inner)
        self.box.setContentsMargins(8, 4, 8, 4)
        outer = QVBoxLayout(self)
        outer.setContentsMargins(0, 0, 0, 0)
        outer.addWidget(scrolled(inner))
        self.text: QLabel = Words("")

    def show_hood(self, answers: Answers, hood: HoodFlow | None) -> None:
        """Reckons with the flow of another hood."""
        self.flow = 0.0 if hood is None else hood.flow
        self.of = "" if hood is None else name_of(answers.shop, hood.thing)
        if answers.shop.units != self.units:
            self.units = answers.shop.units
            self._fill()
        self._reckon()

    def _fill(self) -> None:
        with refilling(self.box):
            system: System = self.units or "metric"
            idea = ChoiceField("Kind of hood", [(key, one.name) for key, one in IDEAS.items()], widest=16)
            idea.show_value(self.idea)
            idea.entered.connect(self._begin)
            kind = ChoiceField("Its opening", list(KINDS), widest=18)
            kind.show_value(self.opening.kind)
            kind.entered.connect(self._set_kind)
            self.box.addWidget(beside(idea, kind))
            width = length_field("Width of the opening, or length of the slot", system, least=0.005, most=5.0)
            width.show_value(self.opening.width)
            width.entered.connect(lambda value: self._set(replace(self.opening, width=value)))
            height = length_field(
                "Height of the opening, or width of the slot", system, least=0.002, most=5.0
            )
            height.show_value(self.opening.height)
            height.entered.connect(lambda value: self._set(replace(self.opening, height=value)))
            far = length_field("How far off the dust is made", system, least=0.0, most=3.0)
            far.show_value(self.distance)
            far.entered.connect(self._set_distance)
            self.box.addWidget(
                beside(Words("Opening"), width, Words("by"), height, Words("dust made"), far, Words("off"))
            )
            self.text = Words("")
            self.text.setWordWrap(True)
            self.box.addWidget(self.text)
            self.box.addStretch(1)

    def _begin(self, key: str) -> None:
        self.idea, self.opening, self.distance = key, IDEAS[key].opening, IDEAS[key].distance
        self._fill()
        self._reckon()

    def _set_kind(self, kind: OpeningKind) -> None:
        self._set(replace(self.opening, kind=kind))

    def _set_distance(self, distance: float) -> None:
        self.distance = distance
        self._reckon()

    def _set(self, opening: HoodOpening) -> None:
        self.opening = opening
        self._reckon()

    def _reckon(self) -> None:
        if self.flow <= 0:
            self.text.setText(
                "A hood is reckoned with the flow that a machine draws: draw a run to one, open its gates."
            )
            return
        say = Figures(self.units or "metric")
        lines = designed(IDEAS[self.idea], self.opening, self.distance, self.flow, say)
        self.text.setText("\n".join([f"With the {say.flow(self.flow)} of {self.of}:", *lines]))
