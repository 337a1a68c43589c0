"""The form for a run of duct and its gates."""

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QWidget

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, text_field
from purvel.app.widgets.words import Words
from purvel.catalogue import duct_sizes, elbows, inlines, materials
from purvel.shop import Gate, Run
from purvel.shop.edits import remove


class RunForm(Form):
    """A run: what it is made of, how high it hangs, where it leaves the other run, its gates."""

    def build(self) -> None:
        run = self.now
        self.field("Name", text_field("Name"), "name")
        self.field(
            "Size",
            ChoiceField(
                "Size", [(size, self.say.size(size)) for size in sorted({*duct_sizes(), run.diameter})]
            ),
            "diameter",
        )
        made = [(key, one.name_in(self.say.system)) for key, one in materials().items()]
        self.row(
            "Made of",
            ChoiceField("Material", made),
            lambda one: one.material,
            lambda key: self.put("Made of", material=key, roughness=None),
        )
        self.field(
            "Elbows",
            ChoiceField("Elbows", [(key, one.name) for key, one in elbows().items() if key != "hose-bend"]),
            "elbow",
        )
        if materials()[run.material].kind == "hose":
            slack = number_field("By how much it hangs shorter than stretched", "%", least=0, most=60)
            self.row(
                "Bunched up by",
                slack,
                lambda one: one.slack * 100,
                lambda value: self.put("Slack", slack=value / 100),
            )
            self.field("Sags by", self.length("How far it sags between its hangers", 0.0, 1.0), "sag")
        if run.points:
            height = self.length("Height of all its corners", 0.0, 12.0)
            self.row("Hangs at", height, lambda one: max(point.z for point in one.points), self._raise)
        if run.joins is not None and run.joins.at is not None:
            angle = number_field("Branch fitting", "°", least=15, most=90)
            self.row("Branch at", angle, lambda one: one.joins.angle, lambda value: self._join(angle=value))
            at = self.length("Where it branches off, along the other run from its fan end", 0.0, 200.0)
            self.row("Branches off at", at, lambda one: one.joins.at, lambda value: self._join(at=value))
        self._losses()
        for number, gate in enumerate(run.gates):
            self._gate(number, gate)

    def _losses(self) -> None:
        """How rough it is, and what else sits in it."""
        rough = number_field("Roughness of its wall", "mm", least=0, most=10, decimals=3)
        self.row("Wall roughness", rough, _roughness, lambda mm: self.put("Roughness", roughness=mm / 1000))
        loss = number_field(
            "Loss of what else is in it, on its velocity pressure", "", least=0, most=1000, decimals=2
        )
        self.field("Else in it, loss", loss, "loss")
        known = [(key, one.name) for key, one in inlines().items()]
        for number, key in enumerate(self.now.inline):
            self._inline(number, dict(known).get(key, key))
        add = ChoiceField("Something that sits in it", [("", "nothing more"), *known])
        self.row("Also in it", add, lambda _: "", self._add_inline)

    def _add_inline(self, key: str) -> None:
        if key:
            self.put("What sits in it", inline=(*self.now.inline, key))

    def _inline(self, number: int, name: str) -> None:
        """Something that sits in the run, with a button that takes it out."""
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        away = QPushButton("Take out")
        away.setAccessibleName(f"Take out {name}, {number + 1}")
        others = tuple(key for n, key in enumerate(self.now.inline) if n != number)
        away.clicked.connect(lambda: self.put("What sits in it", inline=others))
        line.addWidget(Words(name), 1)
        line.addWidget(away)
        self.rows.addRow(row)

    def shape(self) -> object:
        run = self.now
        branches = run.joins is not None and run.joins.at is not None
        return (
            materials()[run.material].kind,
            branches,
            bool(run.points),
            run.inline,
            [gate.id for gate in run.gates],
        )

    def _join(self, **changes: Any) -> None:
        self.put("Branch", joins=replace(self.now.joins, **changes))

    def _raise(self, height: float) -> None:
        """The highest corners at another height; low ones stay."""
        points = self.now.points
        top = max(point.z for point in points)
        self.put(
            "Height",
            points=tuple(
                replace(point, z=height) if abs(point.z - top) < 1e-6 else point for point in points
            ),
        )

    def _gate(self, number: int, gate: Gate) -> None:
        row = QWidget()
        line = QHBoxLayout(row)
        line.setContentsMargins(0, 0, 0, 0)
        where = self.length(f"Where {gate.name or gate.id} is, from the fan end of the run", 0.0, 200.0)
        self.bind(
            where,
            lambda one: one.gates[number].at,
            lambda at: self.put(
                "Gate",
                gates=tuple(replace(one, at=at) if one.id == gate.id else one for one in self.now.gates),
            ),
        )
        away = QPushButton("Take out")
        away.setAccessibleName(f"Take out {gate.name or gate.id}")
        away.clicked.connect(
            lambda: self.workspace.apply(lambda shop: remove(shop, gate.id), "Take out a gate")
        )
        gap = number_field("Gap all round when it is shut", "mm", least=0, most=5, decimals=2)
        self.bind(gap, lambda one: 1000 * self._gap(one.gates[number]), partial(self._set_gap, gate.id))
        line.addWidget(Words("Gate at"))
        line.addWidget(where, 1)
        line.addWidget(Words("gap"))
        line.addWidget(gap, 1)
        line.addWidget(away)
        self.rows.addRow(row)

    def _gap(self, gate: Gate) -> float:
        """Its own, else that of all gates here [m]."""
        return self.workspace.shop.ducts.gate_gap if gate.gap is None else gate.gap

    def _set_gap(self, gate: str, mm: float) -> None:
        """A gap of its own; what all gates here have is no such."""
        is_usual = abs(mm / 1000 - self.workspace.shop.ducts.gate_gap) < 1e-7
        gap = None if is_usual else mm / 1000
        changed = tuple(replace(one, gap=gap) if one.id == gate else one for one in self.now.gates)
        self.put("Gap of a gate", gates=changed)


def _roughness(run: Run) -> float:
    """Roughness of a run's wall [mm]: its own, else that of its material."""
    return 1000 * (materials()[run.material].roughness if run.roughness is None else run.roughness)
