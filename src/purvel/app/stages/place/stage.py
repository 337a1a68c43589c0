"""Place: machines and benches, their feed lanes, standing room and ways."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QPushButton, QStackedWidget

from purvel.app.plan import draw_lanes, draw_room, draw_things
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.place.lane_section import LaneSection
from purvel.app.stages.place.own_kinds import OwnKinds
from purvel.app.stages.place.scenes_strip import ScenesStrip
from purvel.app.stages.stage import Stage
from purvel.app.theme import Theme
from purvel.app.widgets.fields import TextField, length_field
from purvel.app.widgets.flow import clear
from purvel.app.widgets.words import set_tip
from purvel.app.workspace import Workspace
from purvel.catalogue import evenly, kinds, make_thing
from purvel.review import Finding
from purvel.review.place.answers import PlaceAnswers
from purvel.review.place.open_rules import open_floor_of
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Thing
from purvel.shop.edits import change_shop, fresh_id, put
from purvel.space.ground import footprint
from purvel.space.placing import beside, free_spot


class PlaceStage(Stage):
    """Can this board be fed here?"""

    entry = entry_of("place")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.section, self.scenes = (
            LaneSection(workspace, reviews, theme),
            ScenesStrip(workspace, reviews, theme),
        )
        self.instrument = self.stack = QStackedWidget()
        self.stack.addWidget(self.section)
        self.stack.addWidget(self.scenes)
        reviews.counted.connect(self.scenes.update)
        self.fields: dict[str, TextField[float]] = {}
        self.own = OwnKinds(workspace)
        self.own.changed.connect(self.rebuild_and_show)
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        groups = list(dict.fromkeys(kind.group for kind in kinds().values()))
        ordered = sorted(kinds().items(), key=lambda pair: groups.index(pair[1].group))
        entries = [(kind.name, partial(self.place, key)) for key, kind in ordered]
        own = self.own.entries(self.place_own)
        groups = [kind.group for _, kind in ordered] + ["Your own"] * len(own)
        self.row.addWidget(self.menu_button("Place", [*entries, *own], groups))
        system = self.workspace.shop.units
        self.fields = {}
        for key, word, least, most in (
            ("length", "Board", 0.05, 20.0),
            ("width", "by", 0.01, 3.0),
            ("thickness", "by", 0.001, 0.5),
            ("hand_room", "Hand room", 0.0, 5.0),
        ):
            name = "Room for hands at both ends" if key == "hand_room" else f"Board {key}"
            field = length_field(name, system, least=least, most=most)
            field.line.setFixedWidth(round(self.theme.pixels * (5.6 if key != "length" else 6.4)))
            field.entered.connect(partial(self._set, key))
            self.fields[key] = field
            self.pair(word, field)
        self.side_by_side = QPushButton("All scenes")
        self.side_by_side.setCheckable(True)
        set_tip(self.side_by_side, "All scenes as small plans, instead of the section along the lane")
        self.side_by_side.setChecked(self.stack.currentWidget() is self.scenes)
        self.side_by_side.clicked.connect(self.show_scenes)
        self.row.addWidget(self.side_by_side)

    def _set(self, key: str, value: float) -> None:
        if key == "hand_room":
            self.workspace.apply(lambda shop: change_shop(shop, hand_room=value), "Set the hand room")
        else:
            self.workspace.apply(
                lambda shop: change_shop(shop, stock=replace(shop.stock, **{key: value})), "Set the board"
            )

    def refresh(self) -> None:
        shop = self.workspace.shop
        for key in ("length", "width", "thickness"):
            self.fields[key].show_value(getattr(shop.stock, key))
        self.fields["hand_room"].show_value(shop.hand_room)
        self.section.show_shop(self.workspace.shown, self.view)
        self.scenes.update()
        self.side_by_side.setVisible(bool(self.workspace.base.scenes))
        if not self.workspace.base.scenes:
            self.show_scenes(False)

    def show_scenes(self, on: bool) -> None:
        """All scenes as small plans, or the section along the lane."""
        self.stack.setCurrentWidget(self.scenes if on else self.section)
        self.side_by_side.setChecked(on)

    def rebuild_and_show(self) -> None:
        """Makes the strip anew, as it was."""
        self.rebuild()
        self.refresh()

    def place_own(self, own: Thing) -> None:
        """Sets down one of the user's own kinds."""
        self._set_down(replace(own, id=fresh_id(self.workspace.shop, own.kind)))

    def place(self, kind: str) -> None:
        """Sets a new thing down where there is room for it, picked, ready to be dragged."""
        shop = self.workspace.shop
        self._set_down(evenly(make_thing(kind, fresh_id(shop, kind)), shop.units))

    def _set_down(self, thing: Thing) -> None:
        shop = self.workspace.shop
        spot = free_spot(thing, shop.things, self.answers().of(RoomAnswers).shell)
        if spot is None:
            spot = beside(thing, self.answers().of(RoomAnswers).shell)
            self.workspace.said.emit(f"There is no free floor for {thing.name}: it stands beside the room.")
        thing = replace(thing, x=spot[0], y=spot[1])
        same = sum(1 for one in shop.things if one.kind == thing.kind)
        if same:
            thing = replace(thing, name=f"{thing.name} {same + 1}")
        self.workspace.apply(lambda shop: put(shop, thing), f"Place {thing.name}")
        self.workspace.pick(thing.id)

    def draw(self, sheet: Sheet) -> None:
        shop, answers, picked = self.workspace.shown, self.answers(), self.workspace.picked
        shell = answers.of(RoomAnswers).shell
        draw_room.room(sheet, shell, None)
        opened = self._opened()
        if opened is not None and opened.rule == "open-floor":
            draw_lanes.open_floor(sheet, open_floor_of(opened))
        self._draw_rolled(sheet, None if opened is None or opened.rule != "roll-out" else opened.where.items)
        chosen = shop.thing(picked or "")
        lanes = [
            one for one in answers.of(PlaceAnswers).lanes.values() if chosen is None or one.thing != chosen.id
        ]
        draw_lanes.lanes(sheet, lanes, shop)
        if chosen is not None:
            draw_lanes.standing(sheet, chosen)
            draw_lanes.line_of_throw(sheet, answers.of(PlaceAnswers).flight(chosen))
            for other in answers.of(PlaceAnswers).other_lanes_of((chosen,)):
                draw_lanes.other_lane(sheet, other)
            zone = answers.of(PlaceAnswers).round_zone(chosen)
            if zone is not None:
                draw_lanes.round_zone(sheet, zone)
        draw_things.things(sheet, shop, picked, self.trouble())
        if chosen is not None and self.reviews.is_settled:  # ways do not follow the hand
            for way in self.review.answers.of(PlaceAnswers).aisles:
                if way.thing == chosen.id:
                    draw_lanes.narrowest(sheet, way, shop)
        if chosen is not None and chosen.id in answers.of(PlaceAnswers).lanes:
            draw_lanes.lane(sheet, answers.of(PlaceAnswers).lanes[chosen.id], shop, strong=True)
        if chosen is not None and self.workspace.is_previewing:
            before = self.workspace.shop.thing(chosen.id)
            if before is not None:
                draw_things.ghost(sheet, footprint(before))

    def seen_of_review(self) -> object:
        return self.trouble(), self._opened()

    def _opened(self) -> Finding | None:
        return next((one for one in self.review.findings if one.key == self.view.open_finding), None)

    def _draw_rolled(self, sheet: Sheet, asked: tuple[str, ...] | None) -> None:
        """The ways on which things on wheels come to where they stand in the scene: those that are asked for,
        else that of what is picked; from the scene that is set next to it, else from the first in which they
        stand elsewhere.
        """
        found = self.searched() if asked or self.workspace.picked else None
        if found is None:
            return
        pair, drawn = self.scenes.pair(), set[str]()
        starts = found.of(PlaceAnswers).roll_outs
        for start in sorted(starts, key=lambda one: pair is None or one != pair[1]):
            for one in starts[start]:
                thing = found.shop.thing(one.thing)
                if one.thing in drawn or one.thing not in (asked or (self.workspace.picked,)):
                    continue
                if thing is not None and one.fits:
                    draw_lanes.rolled(sheet, thing, one)
                    drawn.add(one.thing)

    def empty_hint(self) -> str:
        if self.workspace.shown.things:
            return ""
        if not self.workspace.shown.room.walls:
            return "There is no room yet. Press 1 and enter its walls."
        return (
            "Nothing stands here yet.\n\nPress “Place”, choose the machine you use most, and drag it to where"
            " you want it. Its lane shows how long a board it takes there."
        )

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        listed = [(f"Place {kind.name.lower()}", partial(self.place, key)) for key, kind in kinds().items()]
        scenes = [("Show all scenes as small plans", partial(self.show_scenes, True))]
        return [*listed, *self.own.entries(self.place_own), *(scenes if self.workspace.base.scenes else [])]
