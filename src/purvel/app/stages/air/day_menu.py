"""What the strip of the air adds to the day besides work, and what it does with days as a whole."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from purvel.app.workspace import Workspace
from purvel.review import Answers
from purvel.review.air.beyond import behind
from purvel.review.air.days import drop_other, from_jobs, keep_as_other, put_session
from purvel.shop import Passage, Person, Spell
from purvel.shop.edits import Edit, fresh_id, put, swap_days

Entry = tuple[str, Callable[[], object]]
SHARED = (1, 2, 5)  # days a week that jobs are shared out to


class DayMenu:
    """The entries, and what they do."""

    def __init__(self, workspace: Workspace, answers: Callable[[], Answers]) -> None:
        self.workspace, self.answers = workspace, answers

    def adding(self) -> list[Entry]:
        """What can be added besides work."""
        return [
            ("Time that a cleaner runs", self.add_cleaner_time),
            ("Time that doors stand open", partial(self._add, "spell", Spell, name="Doors open")),
            ("Room next door, with a door to it", self.add_room),
            ("Another door, stair or hatch", self.add_passage),
            ("Person who is about", partial(self._add, "person", Person, name="Visitor")),
        ]

    def days(self) -> list[Entry]:
        """What can be done with the day as a whole."""
        jobs = [
            (f"From the jobs, shared out to {n} day{'s' if n > 1 else ''} a week", partial(self.from_jobs, n))
            for n in SHARED
        ]
        return [
            ("Keep as day B, and change on", partial(self._edit, keep_as_other, "Keep the day as B")),
            ("Change between A and B", self.swap),
            ("Drop day B", partial(self._edit, drop_other, "Drop day B")),
            *jobs,
        ]

    def _edit(self, edit: Edit, words: str) -> None:
        self.workspace.apply(edit, words)

    def _add(self, stem: str, kind: Any, **fields: Any) -> None:
        item = fresh_id(self.workspace.shop, stem)
        self.workspace.apply(lambda shop: put(shop, kind(id=item, **fields)), f"Add {fields['name'].lower()}")
        self.workspace.pick(item)

    def add_cleaner_time(self) -> None:
        """A time of its own for the first cleaner."""
        thing = next((one for one in self.workspace.shop.things if one.cleaner is not None), None)
        if thing is None:
            self.workspace.said.emit("No cleaner is in the plan yet: add one in Place first.")
            return
        self._add("spell", Spell, name=thing.name or "Cleaner", thing=thing.id)

    def add_room(self) -> None:
        """A room behind the first door that leads into the house or to another room and has none yet."""
        shop = self.workspace.shop
        known = {one.opening for one in shop.air.passages}
        doors = [one.id for one in shop.room.openings if one.leads != "outdoors" and one.id not in known]
        after = behind(shop, doors[0] if doors else None)
        self.workspace.apply(lambda _: after, "Add a room next door")
        self.workspace.pick(after.air.rooms[-1].id)

    def add_passage(self) -> None:
        """A door to the last room."""
        rooms = self.workspace.shop.air.rooms
        if not rooms:
            self.workspace.said.emit("No room is there that it could lead to: add a room next door first.")
            return
        self._add("passage", Passage, name="Door", room=rooms[-1].id)

    def swap(self) -> None:
        """B to be changed, and A beside it."""
        if self.workspace.shop.air.other is None:
            self.workspace.said.emit("There is one day only: keep it as day B first.")
            return
        self._edit(swap_days, "Change between A and B")

    def from_jobs(self, days: int) -> None:
        """The day made of the Flow stage's jobs."""
        try:
            session = from_jobs(self.answers(), days)
        except ValueError as exc:
            self.workspace.said.emit(str(exc))
            return
        self._edit(put_session(session), "Make the day from the jobs")
