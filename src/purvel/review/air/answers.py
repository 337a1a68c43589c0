"""What the room's air says over the session."""

from purvel.catalogue import dust_sizes
from purvel.once import once
from purvel.review.air.hoods import Pull, extractions, pulls, reckoned
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.day import Day, Extraction, simulate
from purvel.roomair.dust import settled
from purvel.shop import Air, Cleaner


class AirAnswers:
    """The simulated session. The day runs in the shop as drawn, whatever scene is looked at."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.base, answers.ask
        self._room, self._answers = answers.of(RoomAnswers), answers

    @once
    def pulls(self) -> dict[str, Pull]:
        """What the drawn ducts pull at each machine."""
        return self._ask(pulls, self._answers.drawn.of(DuctAnswers).networks, self._shop)

    @once
    def air(self) -> Air:
        """The air with every piece of work's capture as its hood has it."""
        return self._ask(reckoned, self._shop.air, self.pulls)

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
        return self._simulated(self._cleaners)

    def simulated_with(self, cleaner: Cleaner) -> Day | None:
        """The same session with one cleaner more; None where there is none."""
        return None if self.day is None else self._simulated((*self._cleaners, cleaner))

    @property
    def _cleaners(self) -> tuple[Cleaner, ...]:
        return tuple(thing.cleaner for thing in self._shop.things if thing.cleaner is not None)

    def _simulated(self, cleaners: tuple[Cleaner, ...]) -> Day:
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
