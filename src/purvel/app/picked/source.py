"""The rows of a source in its form: its curve, its filter, a separator before it."""

from dataclasses import replace
from functools import partial
from typing import Any

from PySide6.QtWidgets import QPlainTextEdit

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field
from purvel.app.widgets.words import Words
from purvel.catalogue import filter_grades, filter_media, filter_states, with_fine_filter
from purvel.quantities import UnitError, convert, parse_quantity, units_for
from purvel.quantities.systems import System
from purvel.shop import CurvePoint, Filter, Separator, Source, Thing
from purvel.shop.faults import curve_faults

MEANINGS = (
    ("total", "total pressure, no filter"),
    ("outlet static", "static at the outlet"),
    ("inlet suction", "suction at the inlet"),
)
_STATES = {"clean": "new and clean", "seasoned": "used, with its coat of dust", "clogged": "clogged"}
SEPARATORS = (("bucket", "bucket"), ("drum", "chip drum"), ("cyclone", "cyclone"))
SEPARATOR_LOSS = 3.0  # [-], of a bucket or a drum with a cyclone lid [trade practice, low confidence]
ORIGINS = (
    ("representative", "representative"),
    ("plate", "two figures on its plate"),
    ("maker", "the maker's"),
    ("measured", "measured"),
)


class SourceForm(Form):
    """A thing that may be a source."""

    def _source(self) -> None:
        for word, name, choices, key in (
            ("Curve is", "What the curve's pressure means", MEANINGS, "pressure_is"),
            ("Curve from", "Where the curve comes from", ORIGINS, "curve_from"),
        ):
            self.inner(word, ChoiceField(name, choices), lambda one: one.source, key, self._put_source)
        self._filters()
        points = number_field("Which way the inlet points", "°", least=-360, most=360)
        self.inner("Inlet points", points, lambda one: one.source, "inlet_direction", self._put_source)
        grades = [(efficiency, name) for name, efficiency in filter_grades().items()]
        if self.now.source.efficiency not in dict(grades):
            grades.insert(0, (self.now.source.efficiency, "as it came"))
        self.inner(
            "Filter holds",
            ChoiceField("Filter grade", grades),
            lambda one: one.source,
            "efficiency",
            self._put_source,
        )
        self.tick_row(
            "Blows outdoors", lambda one: one.source.outdoors, lambda on: self._put_source(outdoors=on)
        )
        self._separator()
        if self.now.source.kind != "vac":
            turns = number_field("Speed, of that of its curve", "×", least=0.2, most=2.0)
            self.inner("Turns at", turns, lambda one: one.source, "speed", self._put_source)
        self._curve()
        self._plate_figures()

    def _separator(self) -> None:
        """A bucket, drum or cyclone ahead of the filter."""
        self.tick_row(
            "Goes through a separator", lambda one: one.source.separator is not None, self._set_separator
        )
        if self.now.source.separator is not None:
            kind = ChoiceField("Kind of separator", SEPARATORS)
            loss = number_field("Loss, on the velocity pressure in its inlet", "×", least=0, most=100)
            self.inner("Separator", kind, lambda one: one.source.separator, "kind", self._put_separator)
            self.inner("It loses", loss, lambda one: one.source.separator, "loss", self._put_separator)
            if self.now.source.separator.kind != "cyclone":
                ballast = quantity_field("Ballast in its foot", self.units.mass, least=0, most=200)
                self.inner(
                    "Ballast", ballast, lambda one: one.source.separator, "ballast", self._put_separator
                )

    def _filters(self) -> None:
        """The filter, and a finer one behind it."""
        if self.now.source.filter is None:
            return
        self._filter("filter", "Filter area", "Filter")
        self.tick_row("A finer filter behind it", lambda one: one.source.behind is not None, self._set_behind)
        if self.now.source.behind is not None:
            self._filter("behind", "Area of the filter behind", "Behind it")

    def _filter(self, key: str, name: str, word: str) -> None:
        """Area, medium and state of one filter."""

        def here(thing: Thing) -> Filter:
            found: Filter = getattr(thing.source, key)
            return found

        def set_(**changes: Any) -> None:
            self._put_source(**{key: replace(here(self.now), **changes)})

        medium = here(self.now).medium
        area = quantity_field(name, self.units.area, least=0.01, most=1000.0)
        self.row(word, area, lambda one: here(one).area, lambda value: set_(area=value))
        made = [(one if one != "unknown" else "", medium_.name) for one, medium_ in filter_media().items()]
        self.row(
            "Made of",
            ChoiceField(f"What {word.lower()} is made of", made),
            lambda one: here(one).medium,
            lambda kind: set_(
                medium=kind, resistance=filter_states(kind)[_filter_state(here(self.now)) or "seasoned"]
            ),
        )
        states = [(state, _STATES.get(state, state)) for state in filter_states(medium)]
        self.row(
            "It is",
            ChoiceField("State of the filter" if key == "filter" else "State of the filter behind", states),
            lambda one: _filter_state(here(one)),
            lambda state: set_(resistance=filter_states(here(self.now).medium)[state]),
        )

    def _set_behind(self, on: bool) -> None:
        if on:
            self.put("Source", source=with_fine_filter(self.now.source))
        else:
            self._put_source(behind=None)

    def _set_separator(self, on: bool) -> None:
        inlet = self.now.source.inlet_diameter
        made = Separator(kind="bucket", inlet_diameter=inlet, loss=SEPARATOR_LOSS)
        self._put_source(separator=made if on else None)

    def _put_separator(self, **changes: Any) -> None:
        self._put_source(separator=replace(self.now.source.separator, **changes))

    def _put_source(self, **changes: Any) -> None:
        self.put("Source", source=replace(self.now.source, **changes))

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

    def _plate_figures(self) -> None:
        """The two figures that plates have; they make a curve with the band that they leave open."""
        self.note("Or the two figures of its plate, which are never there together:")
        units = self.units
        most = quantity_field("Most suction, nothing flowing", units.pressure, least=100, most=50_000)
        free = quantity_field("Most flow, nothing in its way", units.flow, least=0.005, most=5.0)
        self.row(
            "Most suction",
            most,
            lambda one: _ends(one.source)[0],
            lambda value: self._set_plate(shut_off=value),
        )
        self.row(
            "Most flow",
            free,
            lambda one: _ends(one.source)[1],
            lambda value: self._set_plate(free_flow=value),
        )

        has_read = self.now.source.sealed is not None or self.now.source.open_flow is not None
        self.note(
            "Its curve goes through your own readings:"
            if has_read
            else "Or your own readings, as it runs here. None yet: this is what its curve says."
        )
        sealed = quantity_field(
            "Suction you read with its inlet blocked", units.pressure, least=100, most=50_000
        )
        opened = quantity_field("Flow you read with its inlet open", units.flow, least=0.005, most=5.0)
        for word, widget, key in (("Sealed, read", sealed, "sealed"), ("Open, read", opened, "open_flow")):
            self.row(word, widget, partial(_read, key), partial(self._set_read, key))
        if has_read:
            self.button("Forget own readings", lambda: self._put_source(sealed=None, open_flow=None))

    def _set_read(self, key: str, value: float) -> None:
        self._put_source(**{key: value})

    def _set_plate(self, **changes: float) -> None:
        from purvel.airflow.sources import plate_curve  # NumPy, not for the first window

        source = self.now.source
        shut_off, free_flow = _ends(source)
        figures = {"shut_off": shut_off, "free_flow": free_flow} | changes
        self._put_source(curve=plate_curve(source.kind, **figures), curve_from="plate")


def _ends(source: Source) -> tuple[float, float]:
    """The most suction [Pa] and the most flow [m3/s] of a source's curve, at the speed it was taken at."""
    from purvel.airflow.sources import SourceCurve

    curve = SourceCurve(replace(source, speed=1.0, sealed=None, open_flow=None))
    return curve.shut_off, curve.free_flow


def _read(key: str, thing: Thing) -> float:
    """What was read of a source, else what its curve says."""
    from purvel.airflow.sources import SourceCurve

    source = thing.source
    assert source is not None  # its form is shown
    read: float | None = getattr(source, key)
    curve = SourceCurve(source)
    return read if read is not None else curve.shut_off if key == "sealed" else curve.free_flow


def _filter_state(filter_: Filter) -> str | None:
    return next(
        (
            name
            for name, value in filter_states(filter_.medium).items()
            if abs(value - filter_.resistance) < 1.0
        ),
        None,
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
