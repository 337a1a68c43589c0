"""What the tape walk and the floor say."""

from collections.abc import Mapping
from dataclasses import replace

from purvel.once import once
from purvel.review.answers import Answers
from purvel.space.shell import Shell, Side, shell
from purvel.space.traverse import Traverse


class RoomAnswers:
    """The room as it was taped."""

    def __init__(self, answers: Answers) -> None:
        self._room, self._ask = answers.shop.room, answers.ask

    @once
    def shell(self) -> Shell:
        """All that the walls say."""
        return self._ask(shell, self._room)

    @once
    def bare(self) -> Shell:
        """The walls and the ceiling alone: the same whatever is open and whatever stands there."""
        return self._ask(shell, replace(self._room, openings=(), fixtures=()))

    @property
    def traverse(self) -> Traverse:
        """The tape walk."""
        return self.shell.traverse

    @property
    def sides(self) -> Mapping[str, Side]:
        """Walls of the closed room."""
        return self.shell.sides

    @property
    def floor_area(self) -> float:
        """[m2]"""
        return self.shell.area

    @property
    def volume(self) -> float:
        """[m3]"""
        return self.shell.volume
