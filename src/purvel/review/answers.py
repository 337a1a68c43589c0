"""What the engines say about a shop.

Each stage has a class of answers; all ask their engines through one memory.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, ParamSpec, TypeVar

from purvel.review.memory import Memory
from purvel.shop import Shop

A = TypeVar("A")
P = ParamSpec("P")
T = TypeVar("T")


class Answers:
    """The answers for one shop as it stands in one scene, each computed when it is first asked for.

    `shop` is what stands; `base` the document's shop, of which it is the scene `scene`.
    """

    def __init__(
        self, shop: Shop, memory: Memory, base: Shop | None = None, scene: str | None = None
    ) -> None:
        self.shop, self.memory, self.base, self.scene = shop, memory, base or shop, scene
        self._by_kind: dict[type, Any] = {}

    def of(self, kind: Callable[[Answers], A]) -> A:
        """The answers of one stage, by their class."""
        assert isinstance(kind, type)
        if kind not in self._by_kind:
            self._by_kind[kind] = kind(self)
        found: A = self._by_kind[kind]
        return found

    @property
    def drawn(self) -> Answers:
        """The answers for the shop as drawn, of which this is a scene."""
        return self if self.scene is None else self.of(_Drawn).answers

    def with_shop(self, shop: Shop) -> Answers:
        """The answers if something else stood in this scene; the document is left as it was."""
        return Answers(shop, self.memory, self.base, self.scene)

    def ask(self, engine: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
        """The engine's answer, remembered by its arguments."""
        return self.memory.answer(engine, *args, **kwargs)


class _Drawn:
    def __init__(self, answers: Answers) -> None:
        self.answers = Answers(answers.base, answers.memory)
