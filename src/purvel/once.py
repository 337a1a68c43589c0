"""A property that is computed when it is first asked for and kept."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Generic, TypeVar, overload

T = TypeVar("T")


class once(Generic[T]):  # noqa: N801  # used like `property`
    """As `functools.cached_property`, but without its lock.

    Until Python 3.12 that lock is one for all instances: while one thread computes, every other waits, and
    the window would stand still for the review. Two threads that ask at once may both compute here; the
    answers agree.
    """

    def __init__(self, compute: Callable[[Any], T]) -> None:
        self._compute = compute
        self.__doc__ = compute.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    @overload
    def __get__(self, instance: None, owner: type) -> once[T]: ...
    @overload
    def __get__(self, instance: object, owner: type) -> T: ...
    def __get__(self, instance: object | None, owner: type) -> once[T] | T:
        if instance is None:
            return self
        kept = self._compute(instance)
        instance.__dict__[self._name] = kept  # from now on found before this is asked
        return kept
