"""Forms for walls, openings and fixtures."""

from dataclasses import replace
from functools import partial
from typing import Any

from purvel.app.picked.form import PROVENANCES, Form
from purvel.app.widgets.fields import ChoiceField, number_field, text_field
from purvel.shop import Joists, Slope
from purvel.shop.edits import change_room, fresh_wall_id, slope_ceiling, split_wall
from purvel.shop.room import Stands
from purvel.space.placing import split_point

_STANDS: tuple[tuple[Stands, str], ...] = (
    ("floor", "on the floor"),
    ("wall", "with its back to a wall"),
    ("ceiling", "under the ceiling"),
)


class WallForm(Form):
    """A wall as it was taped, and the ceiling over it."""

    def build(self) -> None:
        self.title(f"Wall {self.item}")
        self.field("Length", self.length("Length", 0.01, 200.0), "length")
        self.field(
            "Then turns", number_field("Turn at its end, left is positive", "°", least=-180, most=360), "turn"
        )
        self.field("It is", ChoiceField("How the length was got", PROVENANCES), "provenance")
        studs = self.length("From the wall's start to its first stud", 0.0, 200.0)
        self.field("First stud at", studs, "first_stud")
        self.field(
            "Studs every", self.length("Spacing of the studs, 0 if not known", 0.0, 3.0), "stud_spacing"
        )
        self.tick_row("The ceiling slopes down to it", lambda _: self._slope() is not None, self._set_slope)
        if self._slope() is not None:
            for key, word, least in (("low", "Height there", 0.0), ("run", "Slopes for", 0.05)):
                field = self.length(word, least, 30.0)
                self.inner(
                    word, field, lambda _: self._slope() or self._usual(), key, partial(self._set_slope, True)
                )
        self.tick_row("The joists run along it", lambda _: self._joists() is not None, self._set_joists)
        if self._joists() is not None:
            for key, word, least in (("first", "First joist at", 0.0), ("spacing", "Joists every", 0.05)):
                self.inner(
                    word,
                    self.length(word, least, 3.0),
                    lambda _: self._joists() or Joists(wall=self.item),
                    key,
                    partial(self._set_joists, True),
                )
        self.button(
            "Split in two",
            self._split,
            "For a jog or a chase that was missed: two walls in line, to be corrected.",
        )

    def shape(self) -> object:
        return self._slope() is None, self._joists() is None

    def _joists(self) -> Joists | None:
        joists = self.workspace.shop.room.ceiling.joists
        return joists if joists is not None and joists.wall == self.item else None

    def _set_joists(self, on: bool, **changes: Any) -> None:
        joists = replace(self._joists() or Joists(wall=self.item), **changes) if on else None
        self.workspace.apply(
            lambda shop: change_room(shop, ceiling=replace(shop.room.ceiling, joists=joists)),
            f"Joists along wall {self.item}",
        )

    def _slope(self) -> Slope | None:
        return next((one for one in self.workspace.shop.room.ceiling.slopes if one.wall == self.item), None)

    def _usual(self) -> Slope:
        """A slope to begin with."""
        return Slope(wall=self.item, low=round(self.workspace.shop.room.ceiling.height / 2, 3), run=1.2192)

    def _set_slope(self, on: bool, **changes: Any) -> None:
        height = self.workspace.shop.room.ceiling.height
        slope = replace(self._slope() or self._usual(), **changes) if on else None
        if slope is not None and slope.low >= height:
            self.refuse("The sloping ceiling must begin below the flat one.")
            return
        self.workspace.apply(
            lambda shop: slope_ceiling(shop, self.item, slope), f"Ceiling at wall {self.item}"
        )

    def _split(self) -> None:
        at = split_point(self.workspace.shop.room, self.now)
        if at is None:
            self.refuse(f"Wall {self.item} is too short, or too full of openings, to be split.")
            return
        new = fresh_wall_id(self.workspace.shop)
        self.workspace.apply(lambda shop: split_wall(shop, self.item, new, at), f"Split wall {self.item}")


class OpeningForm(Form):
    """A door or window."""

    def build(self) -> None:
        kind = self.now.kind
        self.title(f"{kind.capitalize()}{'' if kind == 'window' else ' door'}")
        self.field(
            "In",
            ChoiceField("Wall", [(wall.id, f"wall {wall.id}") for wall in self.workspace.shop.room.walls]),
            "wall",
        )
        fields = [
            ("offset", "From its start", 0.0),
            ("width", "Width", 0.05),
            ("head", "Top above floor", 0.05),
        ]
        if kind == "window":
            fields.append(("sill", "Sill", 0.0))
        if kind in ("roll-up", "tilting"):
            fields.append(("headroom", "Takes above it", 0.0))
        for key, word, least in fields:
            self.field(word, self.length(word, least, 30.0), key)
        if kind == "swing":
            self.field(
                "Hinge",
                ChoiceField("Hinge side", (("start", "nearer the wall's start"), ("end", "nearer its end"))),
                "hinge",
            )
            self.field("Opens", ChoiceField("Opens", (("in", "inwards"), ("out", "outwards"))), "swing")
            self.field(
                "Leaves", ChoiceField("Leaves", ((1, "one"), (2, "two, meeting in the middle"))), "leaves"
            )
        self.tick("Open: stock may run out", "is_open")
        self.field("Room outside", self.length("Room outside", 0.0, 100.0), "outside")
        leads = ChoiceField(
            "Where it leads",
            (("outdoors", "outdoors"), ("house", "into the house"), ("room", "to another room")),
        )
        self.field("Leads", leads, "leads")
        self.tick("The way in", "entry")

    def fault(self, changed: Any) -> str:
        return "The sill must be below the head." if changed.sill >= changed.head else ""


class FixtureForm(Form):
    """Something that cannot move."""

    def build(self) -> None:
        self.field("Name", text_field("Name"), "name")
        for key, word, least in (
            ("width", "Width", 0.01),
            ("depth", "Depth", 0.01),
            ("bottom", "Bottom", 0.0),
            ("top", "Top", 0.01),
        ):
            self.field(word, self.length(word, least, 30.0), key)
        turned = number_field("Angle", "°", least=-360, most=360)
        self.row("Turned", turned, lambda one: one.angle, lambda value: self.put("Turn", angle=value % 360))
        self.field("Stands", ChoiceField("Where it stands", _STANDS), "stands")
        self.note("Press = on the plan to type its distance from a wall.")
        if self.now.acts == "bay":
            self.tick("A car stands in it", "taken")
        elif self.now.acts != "kept clear":
            self.tick("Has a flame", "flame")

    def fault(self, changed: Any) -> str:
        return "The bottom must be below the top." if changed.bottom >= changed.top else ""
