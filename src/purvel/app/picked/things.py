"""The form for a thing: sizes, ports, and the source or cleaner that it may be."""

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QPlainTextEdit

from purvel.app.picked.form import PROVENANCES, Form
from purvel.app.picked.plate import has_plate, plate_rows, plate_shape
from purvel.app.picked.scene import states_of
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field, text_field
from purvel.app.widgets.words import Words
from purvel.catalogue import duct_sizes, filter_grades, filter_states
from purvel.quantities import UnitError, convert, parse_quantity, units_for
from purvel.quantities.systems import System
from purvel.shop import CurvePoint, Filter, Thing
from purvel.shop.edits import set_state
from purvel.shop.faults import curve_faults
from purvel.shop.parts import name_of
from purvel.shop.scene import Pose, State
from purvel.shop.scenes import scene_of

MEANINGS = (
    ("total", "total pressure, no filter"),
    ("outlet static", "static at the outlet"),
    ("inlet suction", "suction at the inlet"),
)
ORIGINS = (("representative", "representative"), ("maker", "the maker's"), ("measured", "measured"))


class ThingForm(Form):
    """A thing."""

    def build(self) -> None:
        thing = self.now
        self.field("Name", text_field("Name"), "name")
        if self._is_about_power:
            plate_rows(self)
            return
        if self._scene is not None:
            self._in_scene()
        if not self._is_folded:
            self._sizes()
        self.field("Stands at", self.length("Base above the floor", 0.0, 10.0), "z")
        turned = number_field("Angle", "°", least=-360, most=360)
        self.row("Turned", turned, lambda one: one.angle, lambda value: self.put("Turn", angle=value % 360))
        self.field("Sizes are", ChoiceField("How the sizes were got", PROVENANCES), "provenance")
        self._moving()
        for number in range(len(thing.ports)):
            self._port(number)
        if thing.source is not None:
            self._source()
        if thing.cleaner is not None:
            self._cleaner()

    @property
    def _is_about_power(self) -> bool:
        """In the stage of power a machine is its plate, its outlet and its cord."""
        return self.workspace.view.now.stage == "power" and has_plate(self.now)

    def _sizes(self) -> None:
        for key, word, least in (
            ("width", "Width", 0.05),
            ("depth", "Depth", 0.05),
            ("height", "Height", 0.02),
        ):
            self.field(word, self.length(word, least, 20.0), key)
        if self.now.work_height is not None:
            self.field("Table height", self.length("Table height", 0.02, 3.0), "work_height")

    def _moving(self) -> None:
        """By what it can stand elsewhere in another scene."""
        self.tick("On wheels", "wheels")
        self.tick("Hung up, can be taken down", "hung")
        if not self._is_folded:
            self.tick_row("Folds flat", lambda one: one.folded_depth is not None, self._set_folding)
            if self.now.folded_depth is not None:
                self.field("Depth when folded", self.length("Depth when folded", 0.01, 5.0), "folded_depth")
        self.tick("Settled: stays where it is", "settled")

    def _set_folding(self, on: bool) -> None:
        self.put("Folds flat", folded_depth=round(self.now.depth / 4, 3) if on else None)

    def fault(self, changed: Thing) -> str:
        if changed.folded_depth is not None and not self._is_folded and changed.folded_depth >= changed.depth:
            return "Folded, it must be less deep than it is set up."
        return ""

    # ---- the scene that is looked at

    @property
    def _scene(self) -> str | None:
        return self.workspace.view.now.scene

    @property
    def _pose(self) -> Pose | None:
        scene = scene_of(self.workspace.base, self._scene)
        poses = scene.poses if scene is not None else ()
        return next((pose for pose in poses if pose.thing == self.item), None)

    @property
    def _is_folded(self) -> bool:
        return self._pose is not None and self._pose.state == "folded"

    def _in_scene(self) -> None:
        drawn = self.workspace.base.thing(self.item)
        if drawn is None or not drawn.is_movable:
            self.note("It has no wheels, does not fold and is not hung, so it stands here in every scene.")
            return
        self.row(
            "In this scene",
            ChoiceField("In this scene it is", states_of(drawn)),
            lambda _: self._pose.state if self._pose is not None else "set up",
            self._set_state,
        )
        if self._is_folded:
            self.note("Folded here. Its sizes are changed where it is set up.")

    def _set_state(self, state: State) -> None:
        base = self.workspace.base
        if self._scene is not None:
            self.workspace.apply_to_document(
                set_state(base, self._scene, self.item, state), f"{name_of(base, self.item)}: {state}"
            )

    def shape(self) -> object:
        thing, drawn = self.now, self.workspace.base.thing(self.item)
        source = thing.source and (thing.source.filter is None, thing.source.curve)
        moves = (self._scene, self._is_folded, drawn and (drawn.is_movable, drawn.folded_depth is None))
        power = plate_shape(self) if self._is_about_power else None
        return thing.work_height is None, len(thing.ports), source, thing.cleaner is None, moves, power

    # ---- ports

    def _port(self, number: int) -> None:
        port = self.now.ports[number]
        sizes = [(size, self.say.size(size)) for size in sorted({*duct_sizes(), port.diameter})]
        chips = quantity_field("Flow that clears the chips", self.units.flow, least=0.001, most=5.0)
        fine = quantity_field("Flow that catches fine dust", self.units.flow, least=0.001, most=5.0)
        for word, widget, key in (
            (f"Port {port.id}", ChoiceField(f"Size of port {port.id}", sizes), "diameter"),
            ("Clears chips", chips, "chips_flow"),
            ("Fine dust", fine, "fine_flow"),
        ):
            self.inner(word, widget, lambda one: one.ports[number], key, partial(self._put_port, number))

    def _put_port(self, number: int, **changes: Any) -> None:
        self.put(
            "Port",
            ports=tuple(
                replace(one, **changes) if index == number else one
                for index, one in enumerate(self.now.ports)
            ),
        )

    # ---- the source

    def _source(self) -> None:
        for word, name, choices, key in (
            ("Curve is", "What the curve's pressure means", MEANINGS, "pressure_is"),
            ("Curve from", "Where the curve comes from", ORIGINS, "curve_from"),
        ):
            self.inner(word, ChoiceField(name, choices), lambda one: one.source, key, self._put_source)
        if self.now.source.filter is not None:
            area = quantity_field("Filter area", self.units.area, least=0.01, most=1000.0)
            self.row(
                "Filter", area, lambda one: one.source.filter.area, lambda value: self._put_filter(area=value)
            )
            state = ChoiceField("State of the filter", [(name, name) for name in filter_states()])
            self.row(
                "It is",
                state,
                lambda one: _filter_state(one.source.filter),
                lambda name: self._put_filter(resistance=filter_states()[name]),
            )
        self._curve()

    def _put_source(self, **changes: Any) -> None:
        self.put("Source", source=replace(self.now.source, **changes))

    def _put_filter(self, **changes: Any) -> None:
        self._put_source(filter=replace(self.now.source.filter, **changes))

    def _curve(self) -> None:
        units = self.units
        points = QPlainTextEdit(
            "\n".join(
                f"{convert(p.flow, units.flow):.0f} {convert(p.pressure, units.pressure):.4g}"
                for p in self.now.source.curve
            )
        )
        points.setAccessibleName("Points of the curve")
        points.setTabChangesFocus(True)
        points.setMinimumHeight(110)
        self.rows.addRow(Words(f"Points: {units.flow.label}, {units.pressure.label}"))
        self.rows.addRow(points)
        refusal = Words()
        refusal.setObjectName("refusal")
        refusal.setWordWrap(True)

        def take() -> None:
            try:
                curve = read_curve(points.toPlainText(), self.workspace.shop.units)
                wrong = next(curve_faults(replace(self.now.source, curve=curve)), "")
                if wrong:
                    raise ValueError(f"The curve {wrong}")
            except ValueError as exc:
                refusal.setText(str(exc))
                return
            refusal.setText("")
            self._put_source(curve=curve, curve_from="maker")

        self.button("Use these points", take)
        self.rows.addRow(refusal)

    # ---- the cleaner

    def _cleaner(self) -> None:
        flow = quantity_field("Flow of the cleaner", self.units.flow, least=0.001, most=5.0)
        self.row("Moves", flow, lambda one: one.cleaner.flow, lambda value: self._put_cleaner(flow=value))
        grades = ChoiceField(
            "Filter grade", tuple((efficiency, name) for name, efficiency in filter_grades().items())
        )
        self.row(
            "Filter",
            grades,
            lambda one: one.cleaner.efficiency,
            lambda value: self._put_cleaner(efficiency=value),
        )

    def _put_cleaner(self, **changes: Any) -> None:
        self.put("Cleaner", cleaner=replace(self.now.cleaner, **changes))


def _filter_state(filter_: Filter) -> str | None:
    return next(
        (name for name, value in filter_states().items() if abs(value - filter_.resistance) < 1.0), None
    )


def read_curve(text: str, system: System) -> tuple[CurvePoint, ...]:
    """Points of a curve from lines of two numbers, flow and pressure in the reader's units.

    Raises ValueError with one sentence.
    """
    units = units_for(system)
    points = []
    for number, line in enumerate((one for one in text.splitlines() if one.strip()), start=1):
        words = line.replace(";", " ").replace("\t", " ").split()
        if len(words) != 2:
            raise ValueError(
                f"Line {number} needs two numbers, flow in {units.flow.label} and pressure in"
                f" {units.pressure.label}."
            )
        try:
            flow, pressure = parse_quantity(words[0], units.flow), parse_quantity(words[1], units.pressure)
        except UnitError as exc:
            raise ValueError(f"Line {number}: {exc}") from exc
        if not 0 <= flow <= 10 or not 0 <= pressure <= 100_000:
            raise ValueError(f"Line {number} is outside what a source can do.")
        points.append(CurvePoint(flow=flow, pressure=pressure))
    if len(points) < 2:
        raise ValueError("A curve needs at least two points.")
    return tuple(points)
