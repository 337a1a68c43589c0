"""Walls: cleats, shelves, cabinets and racks, the tools on them, and what is still without a home."""

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PySide6.QtWidgets import QPushButton

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.drag_handles import wall_at
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.stages import entry_of
from purvel.app.stages.stage import Stage
from purvel.app.stages.walls.elevation import Elevation
from purvel.app.theme import Theme
from purvel.app.widgets.fields import length_field
from purvel.app.widgets.flow import clear
from purvel.app.widgets.words import set_tip
from purvel.app.workspace import Workspace
from purvel.catalogue.tools import make_tool, tool_kinds
from purvel.review.room.answers import RoomAnswers
from purvel.review.walls.answers import WallsAnswers
from purvel.shop import Shop, Wall
from purvel.shop.edits import change_shop, fresh_id, put
from purvel.shop.parts import item_of, name_of
from purvel.shop.storage import Tool, UnitKind, WallUnit
from purvel.walls.hanging import with_homes
from purvel.walls.reach import Reach

UNITS: tuple[tuple[UnitKind, str], ...] = (
    ("cleat", "Cleat row"),
    ("shelf", "Shelf"),
    ("cabinet", "Cabinet"),
    ("rack", "Timber rack on the wall"),
)


class WallsStage(Stage):
    """Where does it hang, does it hold, can I reach it?"""

    entry = entry_of("walls")

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(workspace, reviews, theme)
        self.instrument = self.elevation = Elevation(workspace, reviews, theme)
        self.wall: str | None = None
        self.rebuild()

    def rebuild(self) -> None:
        clear(self.row)
        entries = [*self._adders()]
        self.row.addWidget(
            self.menu_button("Add", [(a, b) for a, b, _ in entries], [c for _, _, c in entries])
        )
        self.hang_button = QPushButton("Hang these")
        set_tip(self.hang_button, "Looks for a place for every tool that has no home.")
        self.hang_button.clicked.connect(lambda _=False: self.hang_these())
        self.row.addWidget(self.hang_button)
        self.stature = length_field("How tall you are", self.workspace.shop.units, least=1.2, most=2.3)
        self.stature.line.setFixedWidth(round(self.theme.pixels * 5.6))
        self.stature.entered.connect(self._set_stature)
        self.pair("You are tall", self.stature)

    def _adders(self) -> list[tuple[str, Callable[[], object], str]]:
        found: list[tuple[str, Callable[[], object], str]] = [
            (label, partial(self.add_unit, kind), "On the wall") for kind, label in UNITS
        ]
        by_use = {"daily": "Tools used daily", "weekly": "Tools used weekly", "rarely": "Tools seldom used"}
        for use, group in by_use.items():
            for key, kind in sorted(tool_kinds().items(), key=lambda pair: pair[1].name):
                if kind.use == use:
                    found.append((kind.name, partial(self.add_tool, key), group))
        found.append(("Forty common tools", self.add_all, "Many at once"))
        return found

    def _set_stature(self, value: float) -> None:
        person = replace(self.workspace.shop.person, stature=value)
        self.workspace.apply(lambda shop: change_shop(shop, person=person), "Set how tall you are")

    def refresh(self) -> None:
        self.stature.show_value(self.workspace.shop.person.stature)
        homeless = len(self.answers().of(WallsAnswers).homeless)
        self.hang_button.setEnabled(homeless > 0)
        self.wall = self._wall()
        self.elevation.show_wall(self.wall, self.review, self.theme)

    def _wall(self) -> str | None:
        """The wall that is looked at: of what is picked, else the last, else the first with a unit."""
        shop, sides = self.workspace.shown, self.answers().of(RoomAnswers).sides
        item = item_of(shop, self.view.picked)
        if isinstance(item, Tool):
            item = item_of(shop, item.home)
        wanted = item.id if isinstance(item, Wall) else item.wall if isinstance(item, WallUnit) else self.wall
        if wanted in sides:
            return wanted
        return next((unit.wall for unit in shop.storage.units if unit.wall in sides), next(iter(sides), None))

    # ---- edits

    def add_unit(self, kind: UnitKind) -> None:
        """A unit on the wall that is looked at, at a height where hands reach."""
        shop = self.workspace.shop
        wall = next((one for one in shop.room.walls if one.id == self._wall()), None)
        if wall is None:
            self.workspace.said.emit("Enter the walls first; then cleats and shelves have a place.")
            return
        reach = Reach(shop.person.stature)
        width = round(min(1.8, max(0.3, wall.length - 0.4)), 3)
        sizes = {
            "cleat": {"z": reach.eye, "height": 0.09, "depth": 0.04},
            "shelf": {"z": reach.shoulder, "height": 0.02, "depth": 0.25},
            "cabinet": {"z": reach.elbow, "height": 0.6, "depth": 0.3},
            "rack": {"z": reach.elbow, "height": 1.0, "depth": 0.4},
        }[kind]
        name = dict(UNITS)[kind]
        unit = WallUnit(
            id=fresh_id(shop, kind),
            kind=kind,
            name=f"{name}, wall {wall.id}",
            wall=wall.id,
            offset=0.2,
            width=width,
            z=round(sizes["z"], 3),
            height=sizes["height"],
            depth=sizes["depth"],
        )
        self.workspace.apply(lambda s: put(s, unit), f"Add {name.lower()}")
        self.workspace.pick(unit.id)

    def add_tool(self, key: str) -> None:
        """A tool without a home yet."""
        tool = make_tool(key, fresh_id(self.workspace.shop, key))
        self.workspace.apply(lambda shop: put(shop, tool), f"Add {tool.name.lower()}")
        self.workspace.pick(tool.id)

    def add_all(self) -> None:
        """Forty tools that most shops have."""

        def edit(shop: Shop) -> Shop:
            for key in list(tool_kinds())[:40]:
                shop = put(shop, make_tool(key, fresh_id(shop, key)))
            return shop

        self.workspace.apply(edit, "Add forty tools")

    def hang_these(self) -> None:
        """Finds homes for what has none, and says what did not fit."""
        hung, left = self.answers().of(WallsAnswers).proposal()

        def edit(shop: Shop) -> Shop:
            return replace(shop, storage=replace(shop.storage, tools=with_homes(shop.storage.tools, hung)))

        self.workspace.apply(edit, "Hang tools")
        shop = self.workspace.shop
        if left:
            reasons = "; ".join(f"{name_of(shop, one.tool)}: {one.why}" for one in left[:4])
            more = f"; and {len(left) - 4} more" if len(left) > 4 else ""
            self.workspace.said.emit(f"{len(hung)} found a place. No place for {reasons}{more}.")
        else:
            self.workspace.said.emit(f"{len(hung)} found a place.")

    # ---- the plan

    def pickable(self) -> list[str]:
        storage = self.workspace.shop.storage
        walls = [wall.id for wall in self.workspace.shop.room.walls]
        return [*(one.id for one in storage.units), *(one.id for one in storage.tools), *walls]

    def draw(self, sheet: Sheet) -> None:
        shop, answers = self.workspace.shown, self.answers()
        sides = answers.of(RoomAnswers).sides
        draw_room.room(sheet, answers.of(RoomAnswers).shell, self.wall)
        draw_things.things(sheet, shop, None, {}, quiet=True)
        trouble = self.trouble()
        for unit in answers.of(WallsAnswers).units.values():
            side = sides[unit.wall]
            near, far = unit.offset, unit.offset + unit.width
            depth = max(unit.depth, 0.06)
            corners = [side.at(near), side.at(far), side.at(far, -depth), side.at(near, -depth)]
            is_picked = unit.id == self.view.picked
            edge = sheet.palette.accent if is_picked else trouble.get(unit.id, sheet.palette.wood_edge)
            dashes = (5.0, 3.0) if unit.z > 1.5 else ()
            pen = sheet.pen(edge, 2.6 if is_picked or unit.id in trouble else 1.4, dashes=dashes)
            sheet.fill(corners, sheet.brush(sheet.palette.storage, 0.8), pen)

    def tool_press(self, x: float, y: float) -> bool:
        answers = self.answers()
        found = wall_at(answers.of(RoomAnswers).shell, x, y, 0.3)
        if found is None:
            return False
        side, along = found
        units = answers.of(WallsAnswers).units.values()
        hit = next(
            (u for u in units if u.wall == side.wall and u.offset <= along <= u.offset + u.width), None
        )
        self.workspace.pick(side.wall if hit is None else hit.id)
        return True

    def empty_hint(self) -> str:
        shop = self.workspace.shown
        if not shop.room.walls:
            return "There are no walls yet: press 1 and enter them."
        if not shop.storage.units and not shop.storage.tools:
            return "Nothing hangs here yet: click a wall, press “Add” for a cleat row or a shelf, then add your tools."
        return ""

    def commands(self) -> list[tuple[str, Callable[[], object]]]:
        shop = self.workspace.shop
        where = [
            (f"Where is the {tool.name.lower()}?", partial(self.workspace.pick, tool.id))
            for tool in shop.storage.tools
        ]
        added = [(f"Add {label[0].lower()}{label[1:]}", act) for label, act, _ in self._adders()]
        return [*where, ("Hang these: find homes for tools", self.hang_these), *added]
