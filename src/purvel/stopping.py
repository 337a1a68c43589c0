"""Long searches that stop when nobody waits for them any more."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar


class Stopped(Exception):  # noqa: N818  # no error: what it was done for has gone
    """Nobody waits for the answer any more."""


def _always() -> bool:
    return True


_is_wanted: ContextVar[Callable[[], bool]] = ContextVar("is_wanted", default=_always)


@contextmanager
def while_wanted(is_wanted: Callable[[], bool]) -> Iterator[None]:
    """Within, `go_on` raises as soon as `is_wanted` says no. Holds for this thread."""
    token = _is_wanted.set(is_wanted)
    try:
        yield
    finally:
        _is_wanted.reset(token)


def go_on() -> None:
    """Raises Stopped if nobody waits. Called by searches between their steps."""
    if not _is_wanted.get()():
        raise Stopped
