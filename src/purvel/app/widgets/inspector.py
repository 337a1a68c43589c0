"""What is picked: its sizes and choices, each one changed in place."""

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from PySide6.QtWidgets import QCheckBox, QFormLayout, QHBoxLayout, QLabel, QPlainTextEdit, QPushButton, QVBoxLayout, QWidget

from purvel.app.desk import Desk
from purvel.app.widgets.fields import ChoiceField, TextField, form, length_field, number_field, quantity_field, text_field
from purvel.app.widgets.flow import clear
from purvel.catalogue import captures, duct_sizes, elbows, filter_grades, filter_states, materials, operations
from purvel.quantities import UnitError, convert, parse_quantity, units_for
from purvel.review.reader import Reader
from purvel.shop import CurvePoint, Filter, Fixture, Opening, Run, Slope, Spell, Thing, Wall
from purvel.shop.edits import (
    change_run,
    change_thing,
    fresh_wall_id,
    put_fixture,
    put_opening,
    put_spell,
    put_wall,
    remove,
    slope_ceiling,
    split_wall,
)
from purvel.shop.faults import faults
from purvel.space.clearances import split_point

HOW = (("measured", "measured"), ("plate", "off the plate"), ("paced", "guessed"))


class Inspector(QWidget):
    """A form for whatever is picked."""

    def __init__(self, desk: Desk) -> None:
        super().__init__()
        self.desk = desk
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(6, 4, 6, 6)
        self._binders: list[tuple[Callable[[Any], object], Any]] = []
        self._item: str | None = None
        self._kind: object = None
        self._moves: dict[str, Callable[[], object]] = {}
        desk.picked_changed.connect(self.rebuild)
        desk.changed.connect(self.refresh)

    # ---- finding what is picked

    def _picked(self) -> Any:
        shop, item = self.desk.shop, self.desk.picked
        if item is None:
            return None
        for group in (shop.things, shop.room.walls, shop.room.openings, shop.room.fixtures, shop.ducts.runs, shop.air.session.spells):
            for one in group:
                if one.id == item:
                    return one
        return None

    def rebuild(self) -> None:
        """Makes the form anew for what is picked now."""
        clear(self.box)
        self._binders = []
        one = self._picked()
        self._item, self._kind = self.desk.picked, type(one)
        if one is None:
            hint = QLabel("Nothing is picked. Click a thing on the plan, or press N to go through them.")
            hint.setObjectName("small")
            hint.setWordWrap(True)
            self.box.addWidget(hint)
            self.box.addStretch(1)
            return
        widget, rows = form()
        self.box.addWidget(widget)
        makers = {Thing: self._thing, Wall: self._wall, Opening: self._opening, Fixture: self._fixture, Run: self._run, Spell: self._spell}
        makers[type(one)](one, rows)
        away = QPushButton("Take away")
        away.setToolTip("Delete")
        away.clicked.connect(self._remove)
        self.box.addWidget(away)
        self.box.addStretch(1)
        self.refresh()

    def refresh(self) -> None:
        """Shows the document's values in the fields."""
        one = self._picked()
        if self.desk.picked != self._item or type(one) is not self._kind:
            self.rebuild()
            return
        for read, widget in self._binders:
            value = read(one)
            if isinstance(widget, QCheckBox):
                widget.blockSignals(True)
                widget.setChecked(bool(value))
                widget.blockSignals(False)
            else:
                widget.show_value(value)

    def _remove(self) -> None:
        item = self.desk.picked
        if item is not None:
            self.desk.pick(None)
            self.desk.apply(lambda shop: remove(shop, item), "Take away")

    # ---- rows

    def _bind(self, rows: QFormLayout, word: str, widget: Any, read: Callable[[Any], object], write: Callable[[Any], object]) -> None:
        if isinstance(widget, QCheckBox):
            widget.toggled.connect(write)
            rows.addRow(widget)
        else:
            widget.entered.connect(write)
            rows.addRow(word, widget)
        self._binders.append((read, widget))

    def _length(self, word: str, least: float = 0.001, most: float = 50.0) -> TextField:
        return length_field(word, self.desk.shop.units, least=least, most=most)

    # ---- things

    def _thing(self, thing: Thing, rows: QFormLayout) -> None:
        def put(key: str, label: str) -> Callable[[Any], object]:
            return lambda value: self.desk.apply(lambda shop: change_thing(shop, thing.id, **{key: value}), f"{label} of {thing.name}")

        self._bind(rows, "Name", text_field("Name"), lambda t: t.name, put("name", "Name"))
        for key, word, least in (("width", "Width", 0.05), ("depth", "Depth", 0.05), ("height", "Height", 0.02)):
            self._bind(rows, word, self._length(word, least, 20.0), lambda t, k=key: getattr(t, k), put(key, word))
        if thing.work_height is not None:
            self._bind(rows, "Table height", self._length("Table height", 0.02, 3.0), lambda t: t.work_height, put("work_height", "Table height"))
        self._bind(rows, "Stands at", self._length("Base above the floor", 0.0, 10.0), lambda t: t.z, put("z", "Base"))
        self._bind(
            rows,
            "Turned",
            number_field("Angle", "°", least=-360, most=360),
            lambda t: t.angle,
            lambda value: put("angle", "Turn")(float(value) % 360),
        )
        self._bind(rows, "Sizes are", ChoiceField("How the sizes were got", HOW), lambda t: t.how, put("how", "Basis"))
        self._bind(rows, "", QCheckBox("On wheels"), lambda t: t.wheels, put("wheels", "Wheels"))
        self._bind(rows, "", QCheckBox("Settled: stays where it is"), lambda t: t.settled, put("settled", "Settled"))
        if thing.ports:
            self._ports(thing, rows)
        if thing.source is not None:
            self._source(thing, rows)
        if thing.cleaner is not None:
            self._cleaner(thing, rows)

    def _ports(self, thing: Thing, rows: QFormLayout) -> None:
        say = Reader(self.desk.shop.units)
        unit = units_for(self.desk.shop.units).flow
        for number, port in enumerate(thing.ports):

            def put(key: str, index: int = number) -> Callable[[Any], object]:
                def write(value: Any) -> None:
                    now = self.desk.shop.thing(thing.id)
                    if now is not None:
                        ports = tuple(replace(p, **{key: float(value)}) if i == index else p for i, p in enumerate(now.ports))
                        self.desk.apply(lambda shop: change_thing(shop, thing.id, ports=ports), f"Port of {thing.name}")

                return write

            sizes = [(size, say.size(size)) for size in sorted({*duct_sizes(), port.diameter})]
            size = ChoiceField(f"Size of port {port.id}", sizes)
            self._bind(rows, f"Port {port.id}", size, lambda t, i=number: t.ports[i].diameter, put("diameter"))
            chips = quantity_field("Flow that clears the chips", unit, least=0.001, most=5.0)
            fine = quantity_field("Flow that catches fine dust", unit, least=0.001, most=5.0)
            self._bind(rows, "Clears chips", chips, lambda t, i=number: t.ports[i].chips_flow, put("chips_flow"))
            self._bind(rows, "Fine dust", fine, lambda t, i=number: t.ports[i].fine_flow, put("fine_flow"))

    def _source(self, thing: Thing, rows: QFormLayout) -> None:
        assert thing.source is not None
        units = units_for(self.desk.shop.units)

        def put(**changes: Any) -> None:
            now = self.desk.shop.thing(thing.id)
            if now is not None and now.source is not None:
                source = replace(now.source, **changes)
                self.desk.apply(lambda shop: change_thing(shop, thing.id, source=source), f"Source {thing.name}")

        meaning = (("total", "total pressure, no filter"), ("outlet static", "static at the outlet"), ("inlet suction", "suction at the inlet"))
        self._bind(
            rows, "Curve is", ChoiceField("What the curve's pressure means", meaning), lambda t: t.source.pressure_is, lambda v: put(pressure_is=v)
        )
        origin = (("representative", "representative"), ("maker", "the maker's"), ("measured", "measured"))
        self._bind(rows, "Curve from", ChoiceField("Where the curve comes from", origin), lambda t: t.source.curve_from, lambda v: put(curve_from=v))
        if thing.source.filter is not None:
            area = number_field("Filter area", "m²", least=0.01, most=1000, decimals=2)
            state = ChoiceField("State of the filter", [(name, name) for name in filter_states()])
            self._bind(rows, "Filter", area, lambda t: t.source.filter.area, lambda v: put(filter=replace(self._filter(thing), area=float(v))))
            self._bind(
                rows,
                "It is",
                state,
                lambda t: _filter_state(t.source.filter),
                lambda v: put(filter=replace(self._filter(thing), resistance=filter_states()[v])),
            )
        points = QPlainTextEdit("\n".join(f"{convert(p.flow, units.flow):.0f} {convert(p.pressure, units.pressure):.4g}" for p in thing.source.curve))
        points.setAccessibleName("Points of the curve")
        points.setTabChangesFocus(True)
        points.setMinimumHeight(110)
        rows.addRow(QLabel(f"Points: {units.flow.label}, {units.pressure.label}"))
        rows.addRow(points)
        refusal = QLabel()
        refusal.setObjectName("refusal")
        refusal.setWordWrap(True)
        use = QPushButton("Use these points")

        def take() -> None:
            try:
                curve = _read_curve(points.toPlainText(), self.desk.shop.units)
                trial = change_thing(self.desk.shop, thing.id, source=replace(thing.source, curve=curve))  # type: ignore[type-var]
                wrong = [fault for fault in faults(trial) if f"“{thing.id}”" in fault]
                if wrong:
                    raise ValueError(wrong[0].replace(f"of “{thing.id}” ", ""))
            except ValueError as exc:
                refusal.setText(str(exc))
                return
            refusal.setText("")
            put(curve=curve, curve_from="maker")

        use.clicked.connect(take)
        rows.addRow(use)
        rows.addRow(refusal)

    def _filter(self, thing: Thing) -> Filter:
        now = self.desk.shop.thing(thing.id)
        assert now is not None and now.source is not None and now.source.filter is not None
        return now.source.filter

    def _cleaner(self, thing: Thing, rows: QFormLayout) -> None:
        assert thing.cleaner is not None

        def put(**changes: Any) -> None:
            now = self.desk.shop.thing(thing.id)
            if now is not None and now.cleaner is not None:
                cleaner = replace(now.cleaner, **changes)
                self.desk.apply(lambda shop: change_thing(shop, thing.id, cleaner=cleaner), f"Cleaner {thing.name}")

        flow = quantity_field("Flow of the cleaner", units_for(self.desk.shop.units).flow, least=0.001, most=5.0)
        self._bind(rows, "Moves", flow, lambda t: t.cleaner.flow, lambda v: put(flow=float(v)))
        filters = tuple((efficiency, name) for name, efficiency in filter_grades().items())
        self._bind(rows, "Filter", ChoiceField("Filter grade", filters), lambda t: t.cleaner.efficiency, lambda v: put(efficiency=v))

    # ---- walls, openings and fixtures

    def _wall(self, wall: Wall, rows: QFormLayout) -> None:
        def put(key: str) -> Callable[[Any], object]:
            def write(value: Any) -> None:
                now = next((one for one in self.desk.shop.room.walls if one.id == wall.id), None)
                if now is not None:
                    self.desk.apply(lambda shop: put_wall(shop, replace(now, **{key: value})), f"Correct wall {wall.id}")

            return write

        rows.addRow(QLabel(f"<b>Wall {wall.id}</b>"))
        self._bind(rows, "Length", self._length("Length", 0.01, 200.0), lambda w: w.length, put("length"))
        turn = number_field("Turn at its end, left is positive", "°", least=-180, most=360)
        self._bind(rows, "Then turns", turn, lambda w: w.turn, lambda v: put("turn")(float(v)))
        self._bind(rows, "It is", ChoiceField("How the length was got", HOW), lambda w: w.how, put("how"))
        self._bind(rows, "", QCheckBox("The ceiling slopes down to it"), lambda w: self._slope(w) is not None, lambda on: self._set_slope(wall, on))
        slope = self._slope(wall)
        if slope is not None:
            for key, word, least in (("low", "Height there", 0.0), ("run", "Slopes for", 0.05)):
                field = self._length(word, least, 30.0)
                self._bind(
                    rows, word, field, lambda w, k=key: getattr(self._slope(w), k, 0.0), lambda v, k=key: self._set_slope(wall, True, **{k: v})
                )
        part = QPushButton("Split in two")
        part.setToolTip("For a jog or a chase that was missed: two walls in line, to be corrected.")
        part.clicked.connect(lambda: self._split(wall.id))
        rows.addRow(part)

    def _split(self, wall_id: str) -> None:
        room = self.desk.shop.room
        at = next(split_point(room, one) for one in room.walls if one.id == wall_id)
        if at is None:
            self.desk.said.emit(f"Wall {wall_id} is too short, or too full of openings, to be split.")
            return
        new = fresh_wall_id(self.desk.shop)
        self.desk.apply(lambda shop: split_wall(shop, wall_id, new, at), f"Split wall {wall_id}")

    def _slope(self, wall: Wall) -> Slope | None:
        return next((one for one in self.desk.shop.room.ceiling.slopes if one.wall == wall.id), None)

    def _set_slope(self, wall: Wall, on: bool, **changes: float) -> None:
        height = self.desk.shop.room.ceiling.height
        now = self._slope(wall) or Slope(wall=wall.id, low=round(height / 2, 3), run=1.2192)
        slope = replace(now, **changes) if on else None
        if slope is not None and slope.low >= height:
            self.desk.said.emit("The sloping ceiling must begin below the flat one; nothing was changed.")
            self.refresh()
            return
        fresh = (self._slope(wall) is None) == on
        self.desk.apply(lambda shop: slope_ceiling(shop, wall.id, slope), f"Ceiling at wall {wall.id}")
        if fresh:
            self.rebuild()

    def _opening(self, opening: Opening, rows: QFormLayout) -> None:
        def put(key: str, label: str) -> Callable[[Any], object]:
            def write(value: Any) -> None:
                now = next((o for o in self.desk.shop.room.openings if o.id == opening.id), None)
                if now is None:
                    return
                changed = replace(now, **{key: value})
                if changed.sill >= changed.head:
                    self.desk.said.emit("The sill must be below the head; nothing was changed.")
                    self.refresh()
                    return
                self.desk.apply(lambda shop: put_opening(shop, changed), label)

            return write

        rows.addRow(QLabel(f"<b>{opening.kind.capitalize()}{'' if opening.kind == 'window' else ' door'}</b>"))
        walls = [(wall.id, f"wall {wall.id}") for wall in self.desk.shop.room.walls]
        self._bind(rows, "In", ChoiceField("Wall", walls), lambda o: o.wall, put("wall", "Move opening"))
        fields = [("offset", "From its start", 0.0), ("width", "Width", 0.05), ("head", "Head", 0.05)]
        if opening.kind == "window":
            fields.append(("sill", "Sill", 0.0))
        if opening.kind in ("roll-up", "tilting"):
            fields.append(("headroom", "Headroom", 0.0))
        for key, word, least in fields:
            self._bind(rows, word, self._length(word, least, 30.0), lambda o, k=key: getattr(o, k), put(key, f"{word} of the opening"))
        if opening.kind == "swing":
            self._bind(
                rows, "Hinge", ChoiceField("Hinge side", (("start", "near jamb"), ("end", "far jamb"))), lambda o: o.hinge, put("hinge", "Hinge")
            )
            self._bind(rows, "Opens", ChoiceField("Opens", (("in", "inwards"), ("out", "outwards"))), lambda o: o.swing, put("swing", "Swing"))
        self._bind(rows, "", QCheckBox("Open: stock may run out"), lambda o: o.is_open, put("is_open", "Open or shut"))
        self._bind(rows, "Room outside", self._length("Room outside", 0.0, 100.0), lambda o: o.outside, put("outside", "Room outside"))
        self._bind(rows, "", QCheckBox("The way in"), lambda o: o.entry, put("entry", "Way in"))

    def _fixture(self, fixture: Fixture, rows: QFormLayout) -> None:
        def put(key: str, label: str) -> Callable[[Any], object]:
            def write(value: Any) -> None:
                now = next((f for f in self.desk.shop.room.fixtures if f.id == fixture.id), None)
                if now is None:
                    return
                changed = replace(now, **{key: value})
                if changed.bottom >= changed.top:
                    self.desk.said.emit("The bottom must be below the top; nothing was changed.")
                    self.refresh()
                    return
                self.desk.apply(lambda shop: put_fixture(shop, changed), label)

            return write

        self._bind(rows, "Name", text_field("Name"), lambda f: f.name, put("name", "Name"))
        for key, word, least in (("width", "Width", 0.01), ("depth", "Depth", 0.01), ("bottom", "Bottom", 0.0), ("top", "Top", 0.01)):
            self._bind(rows, word, self._length(word, least, 30.0), lambda f, k=key: getattr(f, k), put(key, f"{word} of {fixture.kind}"))
        self._bind(
            rows, "Turned", number_field("Angle", "°", least=-360, most=360), lambda f: f.angle, lambda v: put("angle", "Turn")(float(v) % 360)
        )
        hint = QLabel("Press = on the plan to type its distance from a wall.")
        hint.setObjectName("small")
        hint.setWordWrap(True)
        rows.addRow(hint)
        self._bind(rows, "", QCheckBox("Has a flame"), lambda f: f.flame, put("flame", "Flame"))

    # ---- runs

    def _run(self, run: Run, rows: QFormLayout) -> None:
        say = Reader(self.desk.shop.units)

        def put(key: str, label: str) -> Callable[[Any], object]:
            return lambda value: self.desk.apply(lambda shop: change_run(shop, run.id, **{key: value}), f"{label} of {run.name}")

        self._bind(rows, "Name", text_field("Name"), lambda r: r.name, put("name", "Name"))
        sizes = [(size, say.size(size)) for size in sorted({*duct_sizes(), run.diameter})]
        self._bind(rows, "Size", ChoiceField("Size", sizes), lambda r: r.diameter, put("diameter", "Size"))
        self._bind(
            rows, "Made of", ChoiceField("Material", [(k, m.name) for k, m in materials().items()]), lambda r: r.material, put("material", "Material")
        )
        bends = [(k, e.name) for k, e in elbows().items() if k != "hose-bend"]
        self._bind(rows, "Elbows", ChoiceField("Elbows", bends), lambda r: r.elbow, put("elbow", "Elbows"))
        if materials()[run.material].kind == "hose":
            slack = number_field("Slack", "%", least=0, most=60)
            self._bind(rows, "Slack", slack, lambda r: r.slack * 100, lambda v: put("slack", "Slack")(float(v) / 100))
        if run.joins is not None and run.joins.at is not None:
            angle = number_field("Branch fitting", "°", least=15, most=90)
            self._bind(
                rows, "Branch at", angle, lambda r: r.joins.angle, lambda v: put("joins", "Branch")(replace(self._now(run).joins, angle=float(v)))
            )
        if run.points:
            every = self._length("Height of all its corners", 0.0, 12.0)
            self._bind(rows, "Hangs at", every, lambda r: max(p.z for p in r.points), lambda v: self._raise(run, float(v)))
        if run.joins is not None and run.joins.at is not None:
            at = self._length("Where it branches off, along the other run from its fan end", 0.0, 200.0)
            self._bind(rows, "Leaves at", at, lambda r: r.joins.at, lambda v: put("joins", "Branch")(replace(self._now(run).joins, at=float(v))))
        for number, gate in enumerate(run.gates):
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            where = self._length(f"Where {gate.name or gate.id} is, from the fan end of the run", 0.0, 200.0)
            where.entered.connect(lambda value, g=gate.id: self._move_gate(run, g, float(value)))
            self._binders.append((lambda r, i=number: r.gates[i].at if i < len(r.gates) else 0.0, where))
            line.addWidget(QLabel("Gate at"))
            line.addWidget(where, 1)
            away = QPushButton("Take out")
            away.setAccessibleName(f"Take out {gate.name or gate.id}")
            away.clicked.connect(lambda _=False, g=gate.id: (self.desk.apply(lambda shop: remove(shop, g), "Take out a gate"), self.rebuild()))
            line.addWidget(away)
            rows.addRow(row)

    def _move_gate(self, run: Run, gate_id: str, at: float) -> None:
        gates = tuple(replace(gate, at=at) if gate.id == gate_id else gate for gate in self._now(run).gates)
        self.desk.apply(lambda shop: change_run(shop, run.id, gates=gates), f"Move a gate of {run.name}")

    def _now(self, run: Run) -> Any:
        return next(one for one in self.desk.shop.ducts.runs if one.id == run.id)

    def _raise(self, run: Run, height: float) -> None:
        """The highest corners of a run at another height; low ones stay."""
        now = self._now(run)
        top = max(point.z for point in now.points)
        points = tuple(replace(point, z=height) if abs(point.z - top) < 1e-6 else point for point in now.points)
        self.desk.apply(lambda shop: change_run(shop, run.id, points=points), f"Height of {run.name}")

    # ---- work

    def _spell(self, spell: Spell, rows: QFormLayout) -> None:
        def put(**changes: Any) -> None:
            now = next((s for s in self.desk.shop.air.session.spells if s.id == spell.id), None)
            if now is not None:
                self.desk.apply(lambda shop: put_spell(shop, replace(now, **changes)), f"Work: {now.name}")

        work = [(key, one.name) for key, one in operations().items()]

        def other(key: Any) -> None:
            put(operation=key, name=operations()[key].name, emission=operations()[key].band)

        self._bind(rows, "Work", ChoiceField("Work", work), lambda s: s.operation, other)
        places = [(None, "at no machine"), *((t.id, t.name) for t in self.desk.shop.things)]
        self._bind(rows, "At", ChoiceField("Where", places), lambda s: s.thing, lambda v: put(thing=v))
        for key, word, most in (("start", "Starts at", 1439), ("minutes", "Cuts for", 1440)):
            field = number_field(word, "min", least=0 if key == "start" else 0.1, most=most)
            self._bind(rows, word, field, lambda s, k=key: getattr(s, k), lambda v, k=key: put(**{k: float(v)}))
        throws = number_field("Throws off, central", "mg/min", least=0, most=100_000)
        self._bind(rows, "Throws off", throws, lambda s: s.emission[1], lambda v: put(emission=(float(v) / 5, float(v), float(v) * 5)))
        hoods = [(one.share, one.name) for one in captures().values()]
        self._bind(rows, "Hood", ChoiceField("What the hood catches", hoods), lambda s: s.capture, lambda v: put(capture=v))
        note = QLabel("What is thrown off is known to a factor of five either way, what a hood catches to about a fifth.")
        note.setObjectName("small")
        note.setWordWrap(True)
        rows.addRow(note)


def _filter_state(filter_: Filter) -> str | None:
    return next((name for name, value in filter_states().items() if abs(value - filter_.resistance) < 1.0), None)


def _read_curve(text: str, system: Any) -> tuple[CurvePoint, ...]:
    """Points of a curve from lines of two numbers. Raises ValueError with one sentence."""
    units = units_for(system)
    points = []
    for number, line in enumerate((one for one in text.splitlines() if one.strip()), start=1):
        words = line.replace(";", " ").replace("\t", " ").split()
        if len(words) != 2:
            raise ValueError(f"Line {number} needs two numbers, flow in {units.flow.label} and pressure in {units.pressure.label}.")
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
