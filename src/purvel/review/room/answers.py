"""What the tape walk and the floor say."""

from purvel.once import once
from purvel.review.answers import Answers
from purvel.space.ground import Side, floor, sides
from purvel.space.traverse import Traverse, walk
from purvel.space.volume import room_volume


class RoomAnswers:
    """The room as it was taped."""

    def __init__(self, answers: Answers) -> None:
        self._room, self._ask = answers.shop.room, answers.ask

    @once
    def traverse(self) -> Traverse:
        """The tape walk."""
        return self._ask(walk, self._room)

    @once
    def sides(self) -> dict[str, Side]:
        """Walls of the closed room."""
        return self._ask(sides, self._room)

    @once
    def floor_area(self) -> float:
        """[m2]"""
        return float(self._ask(floor, self._room).area) if self.traverse.is_closed else 0.0

    @once
    def volume(self) -> float:
        """[m3]"""
        return self._ask(room_volume, self._room) if self.traverse.is_closed else 0.0
