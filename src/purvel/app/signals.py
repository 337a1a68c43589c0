"""Signals whose payload has a type: what is emitted and what a slot takes are checked."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Generic, TypeVar

from PySide6.QtCore import SignalInstance

T = TypeVar("T")


class Event(Generic[T]):
    """A Qt signal with one payload of type T, which Qt itself would pass as any object."""

    def __init__(self, signal: SignalInstance) -> None:
        self._signal = signal

    def connect(self, slot: Callable[[T], Any]) -> None:
        """Has `slot` called with every payload from now on."""
        self._signal.connect(slot)

    def emit(self, payload: T) -> None:
        """Calls the slots."""
        self._signal.emit(payload)
