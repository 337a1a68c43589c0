"""What was shown last, so that nothing is done again for it."""

from __future__ import annotations


class Last:
    """A shop or a review that was shown, told by which object it is, and all else with it by what it says."""

    def __init__(self) -> None:
        self._of: object = None
        self._rest: tuple[object, ...] = ()

    def is_same(self, of: object, *rest: object) -> bool:
        """Whether that is what was shown last; from now on it is."""
        same = of is self._of and rest == self._rest
        self._of, self._rest = of, rest
        return same
