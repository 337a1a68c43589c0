"""The forms for units on walls and for tools."""

from typing import Any

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field, text_field
from purvel.catalogue.tools import boards, screws
from purvel.shop.parts import name_of
from purvel.shop.storage import WallUnit

USES = (("daily", "used daily"), ("weekly", "used weekly"), ("rarely", "seldom used"))
KEPT = (("hangs", "hangs on a cleat"), ("stands", "stands on a shelf"))


class UnitForm(Form):
    """A cleat, a shelf, a cabinet or a rack."""

    def build(self) -> None:
        unit: WallUnit = self.now
        self.field("Name", text_field("Name of the unit", needed=True), "name")
        walls = [(wall.id, wall.id) for wall in self.workspace.shop.room.walls]
        self.field("On wall", ChoiceField("Wall of the unit", walls), "wall")
        self.field("From its start", self.length("Distance along the wall", 0.0, 200.0), "offset")
        self.field("Wide", self.length("Width of the unit", 0.05, 20.0), "width")
        word = {"cleat": "Its middle at", "shelf": "Its top at"}.get(unit.kind, "Its bottom at")
        self.field(word, self.length("Height of the unit", 0.02, 6.0), "z")
        if unit.kind != "shelf":
            self.field("High", self.length("How high the unit is", 0.02, 6.0), "height")
        if unit.kind != "cleat":
            self.field("Deep", self.length("Depth of the unit", 0.02, 2.0), "depth")
        made = ChoiceField("What the unit is made of", [(key, one.name) for key, one in boards().items()])
        self.field("Made of", made, "material")
        self.field("Thick", self.length("Thickness of its boards", 0.003, 0.2), "thickness")
        if unit.kind == "shelf":
            bays = number_field("Bays between supports", "", least=1, most=20, decimals=0)
            self.row("Bays", bays, lambda one: one.spans, lambda value: self.put("Bays", spans=round(value)))
        self.field(
            "Screws", ChoiceField("Screws", [(key, one.name) for key, one in screws().items()]), "screw"
        )
        per_stud = number_field("Screws in each stud", "in each stud", least=0, most=10, decimals=0)
        self.row(
            "So many",
            per_stud,
            lambda one: one.per_stud,
            lambda value: self.put("Screws", per_stud=round(value)),
        )
        self.field("Lining between", self.length("What lies between it and the studs", 0.0, 0.1), "lining")
        load = quantity_field("Load besides the tools", self.units.mass, least=0.0, most=500.0)
        self.field("Carries also", load, "load")

    def shape(self) -> object:
        return self.now.kind, [wall.id for wall in self.workspace.shop.room.walls]


class ToolForm(Form):
    """A tool."""

    def build(self) -> None:
        self.field("Tool", text_field("Name of the tool", needed=True), "name")
        homes: list[tuple[Any, str]] = [(None, "no home yet")]
        homes += [(one.id, name_of(self.workspace.shop, one.id)) for one in self.workspace.shop.storage.units]
        self.field("Its home", ChoiceField("Home of the tool", homes), "home")
        self.field("Along it", self.length("How far along its home", 0.0, 50.0), "along")
        self.field("Is", ChoiceField("How often it is used", USES), "use")
        self.field("It", ChoiceField("How it is kept", KEPT), "keeps")
        for key, word in (("width", "Wide"), ("height", "High"), ("depth", "Deep")):
            self.field(word, self.length(f"How {word.lower()} it is", 0.005, 5.0), key)
        self.field(
            "Weighs", quantity_field("Mass of the tool", self.units.mass, least=0.0, most=500.0), "mass"
        )

    def shape(self) -> object:
        return [(one.id, name_of(self.workspace.shop, one.id)) for one in self.workspace.shop.storage.units]
