"""Place: machines and benches, their feed lanes, standing room and ways."""

from collections.abc import Callable
from dataclasses import replace

from purvel.app.desk import Desk
from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.stages import ENTRIES
from purvel.app.stages.place.lane_section import LaneSection
from purvel.app.stages.stage import Stage
from purvel.app.theme import Look
from purvel.app.widgets.fields import TextField, length_field
from purvel.app.widgets.flow import clear
from purvel.catalogue import kinds, make_thing
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.shop.edits import change_shop, fresh_id, put
from purvel.space.clearances import free_spot
from purvel.space.ground import footprint


class PlaceStage(Stage):
    """Can this board be fed here?"""

    entry = ENTRIES[1]

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__(desk, bench)
        self.instrument = self.section = LaneSection(desk, bench)
        self.fields: dict[str, TextField] = {}
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        groups = list(dict.fromkeys(kind.group for kind in kinds().values()))
        ordered = sorted(kinds().items(), key=lambda pair: groups.index(pair[1].group))
        entries = [(kind.name, lambda k=key: self.place(k)) for key, kind in ordered]
        self.row.addWidget(self.menu_button("Place", entries, [kind.group for _, kind in ordered]))
        system = self.desk.shop.units
        self.fields = {}
        for key, word, least, most in (
            ("length", "Board", 0.05, 20.0),
            ("width", "by", 0.01, 3.0),
            ("thickness", "by", 0.001, 0.5),
            ("hand_room", "Hand room", 0.0, 5.0),
        ):
            name = "Room for hands at both ends" if key == "hand_room" else f"Board {key}"
            field = length_field(name, system, least=least, most=most)
            field.line.setFixedWidth(round(self.pixels * (5.6 if key != "length" else 6.4)))
            field.entered.connect(lambda value, k=key: self._set(k, float(value)))
            self.fields[key] = field
            self.pair(word, field)
        self.refresh()

    def _set(self, key: str, value: float) -> None:
        if key == "hand_room":
            self.desk.apply(lambda shop: change_shop(shop, hand_room=value), "Set the hand room")
        else:
            self.desk.apply(
                lambda shop: change_shop(shop, stock=replace(shop.stock, **{key: value})), "Set the board"
            )

    def refresh(self) -> None:
        shop = self.desk.shop
        for key in ("length", "width", "thickness"):
            self.fields[key].show_value(getattr(shop.stock, key))
        self.fields["hand_room"].show_value(shop.hand_room)
        self.section.update()

    def dress(self, look: Look, pixels: int) -> None:
        super().dress(look, pixels)
        self.section.dress(look, pixels)

    def place(self, kind: str) -> None:
        """Sets a new thing down where there is room for it, picked, ready to be dragged."""
        shop = self.desk.shop
        thing = make_thing(kind, fresh_id(shop, kind))
        x, y = free_spot(thing, shop.things, self.answers().of(RoomAnswers).shell)
        thing = replace(thing, x=x, y=y)
        same = sum(1 for one in self.desk.shop.things if one.kind == kind)
        if same:
            thing = replace(thing, name=f"{thing.name} {same + 1}")
        self.desk.apply(lambda shop: put(shop, thing), f"Place {thing.name}")
        self.desk.pick(thing.id)

    def draw(self, sheet: Sheet) -> None:
        shop, answers, picked = self.desk.shown, self.answers(), self.desk.picked
        draw_room.room(sheet, answers.of(RoomAnswers).shell, None)
        chosen = shop.thing(picked or "")
        for one in answers.of(PlaceAnswers).lanes.values():
            if chosen is None or one.thing != chosen.id:
                draw_things.lane(sheet, one, shop, strong=False)
        if chosen is not None:
            draw_things.standing(sheet, chosen)
        draw_things.things(sheet, shop, picked, self.trouble())
        if chosen is not None and chosen.id in answers.of(PlaceAnswers).lanes:
            draw_things.lane(sheet, answers.of(PlaceAnswers).lanes[chosen.id], shop, strong=True)
        if chosen is not None and self.desk.is_previewing:
            before = self.desk.shop.thing(chosen.id)
            if before is not None:
                draw_things.ghost(sheet, footprint(before))

    def empty_hint(self) -> str:
        if self.desk.shown.things:
            return ""
        if not self.desk.shown.room.walls:
            return "There is no room yet. Press 1 and enter its walls."
        return (
            "Nothing stands here yet.\n\nPress “Place”, choose the machine you use most, and drag it to where"
            " you want it. Its lane shows how long a board it takes there."
        )

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        return [(f"Place {kind.name.lower()}", lambda k=key: self.place(k)) for key, kind in kinds().items()]
