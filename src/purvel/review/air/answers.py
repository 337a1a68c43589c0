"""What the room's air says over the session."""

from purvel.catalogue import dust_sizes
from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.day import Day, simulate
from purvel.roomair.dust import settled


class AirAnswers:
    """The simulated session. The day runs in the shop as drawn, whatever scene is looked at."""

    def __init__(self, answers: Answers) -> None:
        self._shop, self._ask = answers.base, answers.ask
        self._room = answers.of(RoomAnswers)

    @once
    def day(self) -> Day | None:
        """The simulated session; None without a room or without work."""
        air = self._shop.air
        if self._room.volume <= 0 or not air.session.work:
            return None
        cleaners = tuple(thing.cleaner for thing in self._shop.things if thing.cleaner is not None)
        sizes = self._ask(settled, dust_sizes(), self._room.volume / self._room.floor_area)
        return self._ask(simulate, self._room.volume, air, cleaners, sizes)
