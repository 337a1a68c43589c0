"""What the room's air says over the session."""

from __future__ import annotations

from dataclasses import replace

from purvel.catalogue import dust_sizes
from purvel.once import once
from purvel.review.air.hanging import as_hung
from purvel.review.air.hoods import Pull, extractions, pulls, reckoned
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import tried
from purvel.roomair.day import Day, simulate
from purvel.roomair.dust import settled
from purvel.roomair.stretches import Extraction
from purvel.shop import Air, Cleaner, Opening
from purvel.shop.edits import swap_days


class AirAnswers:
    """The simulated session. The day runs in the shop as drawn, whatever scene is looked at."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.base, answers.ask
        self._room, self.answers = answers.of(RoomAnswers), answers

    @once
    def pulls(self) -> dict[str, Pull]:
        """What the drawn ducts pull at each piece of work."""
        return self._ask(pulls, self.answers.drawn.of(DuctAnswers).networks, self._shop)

    @once
    def air(self) -> Air:
        """The air with every piece of work's capture as its hood has it, and every passage as large as the
        opening that it is.
        """
        return self._ask(reckoned, self._ask(_sized, self._shop.air, self._shop.room.openings), self.pulls)

    @once
    def extractions(self) -> dict[str, Extraction]:
        """What each piece of work blows into."""
        return self._ask(extractions, self.air, self.pulls)

    @once
    def leads_out(self) -> bool:
        """Whether a door or window leads outdoors."""
        return any(opening.leads == "outdoors" for opening in self._shop.room.openings)

    @once
    def day(self) -> Day | None:
        """The simulated session; None without a room or without work."""
        if self._room.volume <= 0 or not self._shop.air.session.work:
            return None
        return self._simulated(self.cleaners)

    @once
    def other(self) -> AirAnswers | None:
        """The second day that is held against the session; None where there is none."""
        return None if self._shop.air.other is None else tried(self.answers, swap_days).of(AirAnswers)

    def simulated_with(self, cleaner: Cleaner) -> Day | None:
        """The same session with one cleaner more; None where there is none."""
        return None if self.day is None else self._simulated({**self.cleaners, "": cleaner})

    @once
    def cleaners(self) -> dict[str, Cleaner]:
        """By thing, each as it reaches the room from its place where it goes by that."""
        return dict(self._ask(as_hung, self._room.shell, self._shop.things))

    def _simulated(self, cleaners: dict[str, Cleaner]) -> Day:
        sizes = self._ask(settled, dust_sizes(), self._room.volume / self._room.floor_area)
        return self._ask(
            simulate,
            self._room.volume,
            self.air,
            cleaners,
            sizes,
            self.extractions,
            leads_out=self.leads_out,
        )


def _sized(air: Air, openings: tuple[Opening, ...]) -> Air:
    by_id = {one.id: one for one in openings}
    passages = tuple(
        replace(one, width=of.width, height=max(of.head - of.sill, 0.001))
        if (of := by_id.get(one.opening or "")) is not None
        else one
        for one in air.passages
    )
    return replace(air, passages=passages)
