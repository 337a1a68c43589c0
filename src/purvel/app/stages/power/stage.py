"""Power: circuits, outlets, cords, what runs together; and the light on the benches."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtCore import QSignalBlocker
from PySide6.QtWidgets import QPushButton

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.drag_handles import DragHandle, step_of, wall_at
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.power import drawing
from purvel.app.stages.power.circuit_bars import CircuitBars
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import ChoiceField
from purvel.app.widgets.flow import clear
from purvel.app.workspace import Workspace
from purvel.catalogue.power import luminaire_kinds, make_luminaire
from purvel.review.power.answers import PowerAnswers, Together
from purvel.review.power.rules import together_name
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Shop
from purvel.shop.edits import fresh_id, put
from purvel.shop.parts import item_of
from purvel.shop.power import Appliance, Circuit, Luminaire, Outlet, Service, Volts
from purvel.space.cords import outlet_spot

LIGHT = "light"
REACH = 12.0  # px round an outlet or a luminaire that still takes hold of it
CIRCUITS: dict[Service, tuple[tuple[str, Volts, float, str], ...]] = {
    "120/240": (
        ("120 V, 15 A", 120, 15.0, "awg-14"),
        ("120 V, 20 A", 120, 20.0, "awg-12"),
        ("240 V, 20 A", 240, 20.0, "awg-12"),
        ("240 V, 30 A", 240, 30.0, "awg-10"),
    ),
    "230": (("230 V, 16 A", 230, 16.0, "mm2-2-5"), ("230 V, 20 A", 230, 20.0, "mm2-2-5"), ("230 V, 32 A", 230, 32.0, "mm2-6")),
}  # fmt: skip
SERVICES: tuple[tuple[Service, str], ...] = (("120/240", "120 and 240 V"), ("230", "230 V"))


class PowerStage(Stage):
    """What may run together, does the cord reach, is it bright enough?"""

    entry = entry_of("power")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.instrument = self.bars = CircuitBars(workspace, theme)
        self.running: ChoiceField[str] | None = None
        self._built: tuple[object, ...] = ()
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        entries = [*self._adders()]
        self.row.addWidget(
            self.menu_button("Add", [(a, b) for a, b, _ in entries], [c for _, _, c in entries])
        )
        self.service = ChoiceField("Voltage of the service", SERVICES)
        self.service.entered.connect(self._set_service)
        self.row.addWidget(self.service)
        self.running = None
        named = self._named()
        self._built = (named, self.workspace.shop.power.service)
        if named:
            self.running = ChoiceField("What runs", named, widest=24)
            self.running.entered.connect(lambda key: self.workspace.view.look_at(together=key))
            self.pair("Running", self.running)
        self.light = QPushButton("Light on the plan")
        self.light.setCheckable(True)
        self.light.toggled.connect(lambda on: self.workspace.view.look_at(layer=LIGHT if on else None))
        self.row.addWidget(self.light)

    def _adders(self) -> list[tuple[str, Callable[[], object], str]]:
        service = self.workspace.shop.power.service
        found: list[tuple[str, Callable[[], object], str]] = [
            (f"Circuit {label}", partial(self.add_circuit, number), "Circuit")
            for number, (label, _, _, _) in enumerate(CIRCUITS[service])
        ]
        found.append(("Outlet in the picked wall", self.add_outlet, "Outlet"))
        found.append(("Outlet overhead", partial(self.add_outlet, overhead=True), "Outlet"))
        found.append(("Heater, freezer or the like", self.add_appliance, "Other load"))
        found += [(one.name, partial(self.add_light, key), "Light") for key, one in luminaire_kinds().items()]
        return found

    def _named(self) -> tuple[tuple[str, str], ...]:
        answers = self.answers()
        return tuple((one.key, together_name(answers, one)) for one in answers.of(PowerAnswers).together)

    def refresh(self) -> None:
        if (self._named(), self.workspace.shop.power.service) != self._built:
            self.rebuild()
        self.service.show_value(self.workspace.shop.power.service)
        with QSignalBlocker(self.light):
            self.light.setChecked(self.view.layer == LIGHT)
        one = self.together()
        if self.running is not None:
            self.running.show_value(None if one is None else one.key)
        self.bars.show_power(self.answers(), one, self._runs_along)

    def together(self) -> Together | None:
        """What is looked at running: the chosen set, else what the picked machine runs in, else the worst."""
        power = self.answers().of(PowerAnswers)
        by_key = {one.key: one for one in power.together}
        chosen = by_key.get(self.view.together or "") or by_key.get(self.view.picked or "")
        if chosen is not None or not by_key:
            return chosen
        worst = max(power.worst.values(), key=lambda pair: pair[1].counted / pair[1].rating, default=None)
        return next(iter(by_key.values())) if worst is None else worst[0]

    # ---- edits

    def _power(self, label: str, **changes: object) -> None:
        def edit(shop: Shop) -> Shop:
            return replace(shop, power=replace(shop.power, **changes))  # type: ignore[arg-type]

        self.workspace.apply(edit, label)

    def _set_service(self, service: Service) -> None:
        self._power("Set the voltage", service=service)

    def _runs_along(self, item: str, on: bool) -> None:
        rest = tuple(one for one in self.workspace.shop.power.along if one != item)
        self._power("Set what runs along", along=(*rest, item) if on else rest)

    def _add(self, item: Circuit | Outlet | Appliance | Luminaire, label: str) -> None:
        self.workspace.apply(lambda shop: put(shop, item), label)
        self.workspace.pick(item.id)

    def add_circuit(self, number: int) -> None:
        """A circuit of one of the usual kinds."""
        shop = self.workspace.shop
        _, volts, rating, conductor = CIRCUITS[shop.power.service][number]
        name = f"Circuit {len(shop.power.circuits) + 1}"
        circuit = Circuit(
            id=fresh_id(shop, "circuit"), name=name, volts=volts, rating=rating, conductor=conductor
        )
        self._add(circuit, f"Add {name.lower()}")

    def add_outlet(self, *, overhead: bool = False) -> None:
        """An outlet in the middle of the picked wall, or hung from the ceiling, on the first circuit."""
        shop = self.workspace.shop
        shell = self.answers().of(RoomAnswers).shell
        if not shell.sides:
            self.workspace.said.emit("Enter the walls first; then outlets have a place.")
            return
        circuit = shop.power.circuits[0].id if shop.power.circuits else None
        outlet_id = fresh_id(shop, "outlet")
        if overhead:
            middle = shell.floor.representative_point()
            height = round(shop.room.ceiling.height - 0.4, 3)
            outlet = Outlet(
                id=outlet_id, x=round(middle.x, 3), y=round(middle.y, 3), height=height, circuit=circuit
            )
        else:
            wall = shell.sides.get(self.view.picked or "") or next(iter(shell.sides.values()))
            outlet = Outlet(id=outlet_id, wall=wall.wall, offset=round(wall.length / 2, 3), circuit=circuit)
        self._add(outlet, "Add an outlet")

    def add_appliance(self) -> None:
        """Something else that draws."""
        shop = self.workspace.shop
        circuit = shop.power.circuits[0] if shop.power.circuits else None
        volts: Volts = 230 if shop.power.service == "230" else 120
        item = Appliance(
            id=fresh_id(shop, "load"),
            name="Heater",
            volts=volts,
            circuit=None if circuit is None else circuit.id,
        )
        self._add(item, "Add another load")

    def add_light(self, kind: str) -> None:
        """A luminaire under the middle of the ceiling, to be dragged."""
        shell, shop = self.answers().of(RoomAnswers).shell, self.workspace.shop
        if shell.floor.is_empty:
            self.workspace.said.emit("Enter the walls first; then lights have a ceiling.")
            return
        middle = shell.floor.representative_point()
        height = round(shop.room.ceiling.height - 0.05, 3)
        one = make_luminaire(kind, fresh_id(shop, "light"), round(middle.x, 3), round(middle.y, 3), height)
        self._add(one, f"Hang a {one.name}")
        self.workspace.view.look_at(layer=LIGHT)

    # ---- the plan

    def pickable(self) -> list[str]:
        power = self.workspace.shop.power
        groups = (power.circuits, power.outlets, power.luminaires, power.appliances)
        return [*(one.id for group in groups for one in group), *super().pickable()]

    def draw(self, sheet: Sheet) -> None:
        shop, answers = self.workspace.shown, self.answers()
        draw_room.room(sheet, answers.of(RoomAnswers).shell, self.view.picked)
        is_light = self.view.layer == LIGHT
        draw_things.things(sheet, shop, self.view.picked, self.trouble(), quiet=True)
        if is_light:
            drawing.light(sheet, answers, self.view.picked, self.say)
        else:
            drawing.cords(sheet, answers, self.view.picked)

    def handle_at(self, x: float, y: float) -> DragHandle | None:
        """Outlets and luminaires are taken hold of where they are drawn."""
        shell, power = self.answers().of(RoomAnswers).shell, self.workspace.shop.power
        reach = REACH / 80.0
        if self.view.layer == LIGHT:
            for one in power.luminaires:
                if (
                    abs(one.x - x) < max(reach, one.length / 2 if abs(one.y - y) < reach else reach)
                    and abs(one.y - y) < reach
                ):
                    return DragHandle(
                        one.id, (one.x - x, one.y - y), partial(self._place_light, one.id), "Move a light"
                    )
            return None
        for outlet in power.outlets:
            spot = outlet_spot(outlet, shell)
            if spot is not None and abs(spot[0] - x) < reach * 1.5 and abs(spot[1] - y) < reach * 1.5:
                return DragHandle(
                    outlet.id,
                    (spot[0] - x, spot[1] - y),
                    partial(self._place_outlet, outlet.id),
                    "Move an outlet",
                )
        return None

    def _place_light(self, item: str, shop: Shop, x: float, y: float) -> Shop:
        one, step = item_of(shop, item), step_of(shop.units)
        return put(shop, replace(one, x=round(round(x / step) * step, 6), y=round(round(y / step) * step, 6)))

    def _place_outlet(self, item: str, shop: Shop, x: float, y: float) -> Shop:
        """Along the walls; one that hangs overhead, anywhere."""
        outlet, step = item_of(shop, item), step_of(shop.units)
        if outlet.wall is None:
            return put(shop, replace(outlet, x=round(x, 3), y=round(y, 3)))
        found = wall_at(self.answers().of(RoomAnswers).shell, x, y, 3.0)
        if found is None:
            return shop
        side, along = found
        offset = round(round(min(max(0.0, along), side.length) / step) * step, 6)
        return put(shop, replace(outlet, wall=side.wall, offset=offset))

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        if not shop.room.walls:
            return "Circuits need a room: press 1 and enter its walls."
        if not shop.power.circuits and not shop.power.luminaires:
            return "No circuit yet: press “Add”, enter the circuits off the panel's labels, then where the outlets are."
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [(f"Add {label[0].lower()}{label[1:]}", act) for label, act, _ in self._adders()]
