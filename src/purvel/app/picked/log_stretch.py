"""The forms of what is noted of a monitor's log: a marked stretch, an event."""

from typing import Any

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, text_field
from purvel.shop.air import LogStretch

SHOWS = (
    ("background", "the background"),
    ("work", "work"),
    ("decay", "how it decays"),
    ("zero", "clean air, a test"),
    ("source", "a source, a test"),
)
CLEANER = (("not noted", "not noted"), ("off", "off"), ("low", "on low"), ("high", "on high"))
DOOR = (("not noted", "not noted"), ("shut", "shut"), ("open", "open"))
HOOD = (("not noted", "not noted"), ("none", "nothing collected"), ("on", "collected"))


class LogStretchForm(Form):
    """What was done while the monitor ran."""

    def build(self) -> None:
        self.field("Stretch", text_field("Name of the stretch"), "name")
        self.field("Shows", ChoiceField("What the stretch shows", SHOWS), "shows")
        for key, word in (("start", "From"), ("end", "To")):
            minutes = number_field(f"{word} this minute of the log", "min", least=0, most=1e6, decimals=1)
            self.row(word, minutes, self._minutes(key), self._set_minutes(word, key))
        self.field("Cleaner", ChoiceField("How the cleaner ran", CLEANER), "cleaner")
        self.field("Door", ChoiceField("How the door stood", DOOR), "door")
        self.field("Hood", ChoiceField("Whether dust was collected", HOOD), "hood")
        self.field("Wood", text_field("Wood that was worked"), "wood")
        self.field("Work", text_field("Work that was done"), "work")
        self.field("Monitor at", text_field("Where the monitor stood"), "place")
        self.note(
            "What is not noted cannot be told apart: two stretches compare only where one thing differs."
        )

    @staticmethod
    def _minutes(key: str) -> Any:
        return lambda one: getattr(one, key) / 60.0

    def _set_minutes(self, word: str, key: str) -> Any:
        return lambda value: self.put(word, **{key: value * 60.0})

    def fault(self, changed: LogStretch) -> str:
        return "" if changed.start < changed.end else "A stretch ends after it starts."


class LogEventForm(Form):
    """Something that was noted while the monitor ran."""

    def build(self) -> None:
        self.field("Noted", text_field("What happened"), "name")
        minutes = number_field("At this minute of the log", "min", least=0, most=1e6, decimals=1)
        self.row("At", minutes, lambda one: one.at / 60.0, lambda value: self.put("Event", at=value * 60.0))
