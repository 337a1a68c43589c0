"""The forms of what the air has besides work: spells, rooms beyond, passages, people."""

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field, text_field
from purvel.roomair.zones import exchange
from purvel.shop import Passage


def _times(form: Form) -> None:
    form.field("From", number_field("Begins at", "min", least=0, most=1439), "start")
    form.field("Lasts", number_field("Lasts", "min", least=0.1, most=1440), "minutes")


class SpellForm(Form):
    """When a cleaner runs, or a door to the outdoors stands open."""

    def build(self) -> None:
        self.field("Called", text_field("Name of the spell"), "name")
        cleaners = [
            (thing.id, f"{thing.name or thing.id} runs")
            for thing in self.workspace.shop.things
            if thing.cleaner is not None
        ]
        what = ChoiceField("What is switched", [(None, "doors stand open"), *cleaners])
        self.field("What", what, "thing")
        _times(self)
        if self.now.thing is not None:
            speed = number_field("Share of its flow", "%", least=0, most=100, decimals=0)
            self.row(
                "At", speed, lambda one: 100 * one.speed, lambda value: self.put("Speed", speed=value / 100)
            )
            self.note("A cleaner with a time of its own runs then, and not with the session.")
        else:
            self.note("What leads outdoors stands open then, with the air changes of open doors.")

    def shape(self) -> object:
        return self.now.thing is None


class NextRoomForm(Form):
    """A room beyond the shop's walls."""

    def build(self) -> None:
        self.field("Room", text_field("Name of the room"), "name")
        self.field(
            "Volume",
            quantity_field("Volume of the room", self.units.volume, least=0.1, most=100_000.0),
            "volume",
        )
        changes = number_field("Changes of outdoor air an hour", "1/h", least=0, most=200, decimals=2)
        self.field("Outdoor air", changes, "changes")
        clean = quantity_field("Clean air of a cleaner there", self.units.flow, least=0.0, most=10.0)
        self.field("Cleaner", clean, "cleaning")
        self.note("A lived-in house has 0.2 to 1 change an hour. A cleaner there is taken to hold all sizes.")


KINDS = (
    ("door", "a door"),
    ("stair", "an open stair"),
    ("hatch", "a hatch in the ceiling"),
    ("given", "an exchange I know"),
)
OPEN = (("always", "always"), ("part", "for a part of the day"), ("never", "never"))


class PassageForm(Form):
    """A door, stair or hatch between two rooms."""

    def build(self) -> None:
        shop = self.workspace.shop
        self.field("Called", text_field("Name of the passage"), "name")
        self.field("It is", ChoiceField("What it is", KINDS), "kind")
        rooms = [(room.id, room.name or room.id) for room in shop.air.rooms]
        self.field("Leads to", ChoiceField("Room that it leads to", rooms), "room")
        self.field("From", ChoiceField("Room that it leads from", [(None, "the shop"), *rooms]), "other")
        kind = self.now.kind
        if kind == "given":
            flow = quantity_field("Exchange each way", self.units.flow, least=0.0, most=10.0)
            self.field("Exchanges", flow, "exchange")
        else:
            self._size(kind)
        self.field("Open", ChoiceField("When it stands open", OPEN), "open")
        if self.now.open == "part":
            _times(self)
        self.live(self._says)

    def _size(self, kind: str) -> None:
        openings = [
            (one.id, one.id)
            for one in self.workspace.shop.room.openings
            if one.leads != "outdoors" or one.id == self.now.opening
        ]
        if openings and kind != "hatch" and self.now.other is None:
            which = ChoiceField("Opening of the shop that it is", [(None, "none that is drawn"), *openings])
            self.field("Opening", which, "opening")
        if self.now.opening is None:
            self.field("Width", self.length("Width"), "width")
            self.field("Length" if kind == "hatch" else "Height", self.length("Height"), "height")
        word = "Below warmer by" if kind == "hatch" else "Warmer by"
        warmer = quantity_field(
            "Difference of temperature", self.units.temperature_difference, least=-40.0, most=40.0
        )
        self.field(word, warmer, "warmer")

    def _says(self, one: Passage) -> str:
        opening = next((of for of in self.workspace.shop.room.openings if of.id == one.opening), None)
        if opening is not None:
            one = Passage(
                id=one.id,
                room=one.room,
                kind=one.kind,
                width=opening.width,
                height=max(opening.head - opening.sill, 0.001),
                warmer=one.warmer,
            )
        if one.kind == "given":
            return "As much air goes the one way as the other."
        low, middle, high = (self.say.flow(flow) for flow in exchange(one))
        return f"About {middle} each way while it is open, {low} to {high}: warm air over cold, and who walks through."

    def fault(self, changed: Passage) -> str:
        return "A passage leads from one room to another." if changed.room == changed.other else ""

    def shape(self) -> object:
        one = self.now
        return one.kind, one.open == "part", one.opening is None, one.other, self.workspace.shop.air.rooms


class PersonForm(Form):
    """Somebody who is about."""

    def build(self) -> None:
        self.field("Who", text_field("Name of the person"), "name")
        rooms = [(room.id, room.name or room.id) for room in self.workspace.shop.air.rooms]
        self.field("Is in", ChoiceField("Room that they are in", [(None, "the shop"), *rooms]), "room")
        _times(self)
        self.note("Breathes the room's air, as evenly mixed. Whoever works at the tools is reckoned anyway.")

    def shape(self) -> object:
        return self.workspace.shop.air.rooms
