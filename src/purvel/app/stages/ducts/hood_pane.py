"""A hood as it is designed, with the flow of the hood that is walked."""

from __future__ import annotations

from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from purvel.airflow.flows import HoodFlow
from purvel.airflow.hood_pattern import pattern
from purvel.airflow.hoods import HoodOpening, OpeningKind
from purvel.app.widgets.fields import ChoiceField, length_field
from purvel.app.widgets.flow import FlowRow, beside, refilling
from purvel.app.widgets.scrolled import scrolled
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.quantities.systems import System
from purvel.review import Answers, Figures
from purvel.review.ducts.hood_design import IDEAS, KINDS, designed
from purvel.shop import HoodPlan, Shop
from purvel.shop.edits import fresh_id, put, remove
from purvel.shop.parts import name_of


class HoodPane(QWidget):
    """A sheet to reckon on; what is kept of it is in the shop, and has a pattern to print."""

    def __init__(self, workspace: Workspace) -> None:
        super().__init__()
        self.workspace = workspace
        self.deep, self.outlet = 0.2, 0.1
        self._thing: str | None = None
        self._kept: tuple[HoodPlan, ...] = ()
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
        self._thing = None if hood is None else hood.thing
        if answers.shop.units != self.units or answers.shop.ducts.hoods != self._kept:
            self.units, self._kept = answers.shop.units, answers.shop.ducts.hoods
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
            depth = length_field("How deep its box is", system, least=0.02, most=2.0)
            depth.show_value(self.deep)
            depth.entered.connect(self._set_depth)
            outlet = length_field("Diameter of its outlet", system, least=0.02, most=0.5)
            outlet.show_value(self.outlet)
            outlet.entered.connect(self._set_outlet)
            self.keep = QPushButton("Keep this hood")
            self.keep.clicked.connect(self._keep)
            self.box.addWidget(beside(Words("Box deep"), depth, Words("outlet"), outlet, self.keep))
            self.text = Words("")
            self.text.setWordWrap(True)
            self.box.addWidget(self.text)
            self._list(Figures(system))
            self.box.addStretch(1)

    def _list(self, say: Figures) -> None:
        """The hoods that are kept."""
        for one in self._kept:
            size = f"{say.length(one.width)} by {say.length(one.height)}, {say.length(one.depth)} deep"
            look, drop = QPushButton("Look"), QPushButton("Drop")
            look.setAccessibleName(f"Look at {one.name}")
            drop.setAccessibleName(f"Drop {one.name}")
            look.clicked.connect(partial(self._look, one))
            drop.clicked.connect(partial(self._drop, one))
            row = FlowRow()
            for widget in (Words(f"{one.name}: {size}"), look, drop):
                row.row.addWidget(widget)
            self.box.addWidget(row)
        if self._kept:
            words = Words(
                "“Patterns of hoods” (☰) prints them as large as life on sheets, for a mock-up of cardboard."
            )
            words.setWordWrap(True)
            self.box.addWidget(words)

    def _set_depth(self, depth: float) -> None:
        self.deep = depth

    def _set_outlet(self, outlet: float) -> None:
        self.outlet = outlet

    def _keep(self) -> None:
        try:
            pattern(self.opening, self.deep, self.outlet)
        except ValueError as exc:
            self.workspace.said.emit(str(exc))
            return
        name = IDEAS[self.idea].name + (f" for {self.of}" if self.of else "")

        def keep(shop: Shop) -> Shop:
            made = HoodPlan(
                id=fresh_id(shop, "hood"),
                name=name,
                idea=self.idea,
                shape=self.opening.kind,
                width=self.opening.width,
                height=self.opening.height,
                depth=self.deep,
                distance=self.distance,
                outlet=self.outlet,
                thing=self._thing,
            )
            return put(shop, made)

        self.workspace.apply(keep, f"Keep {name}")

    def _look(self, one: HoodPlan, _: bool = False) -> None:
        self.idea = one.idea if one.idea in IDEAS else "box"
        self.opening = HoodOpening(one.shape, one.width, one.height)
        self.distance, self.deep, self.outlet = one.distance, one.depth, one.outlet
        self._fill()
        self._reckon()

    def _drop(self, one: HoodPlan, _: bool = False) -> None:
        self.workspace.apply(lambda shop: remove(shop, one.id), f"Drop {one.name}")

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
