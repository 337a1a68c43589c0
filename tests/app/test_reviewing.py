"""The review's thread and the window's: who answers, and who clears up."""

import gc
import threading
import weakref

from purvel.shop.edits import move_thing
from tests.app.conftest import Bench


class Loop:
    """Garbage that only a collection finds."""

    def __init__(self) -> None:
        self.me = self


def test_garbage_is_collected_but_never_in_the_reviews_thread(bench: Bench) -> None:
    bench.demo("garage")
    bench.stage(3)
    threads: set[int] = set()

    def note(phase: str, info: dict[str, int]) -> None:
        if phase == "start":
            threads.add(threading.get_ident())

    gc.callbacks.append(note)
    try:
        litter = [Loop() for _ in range(2 * gc.get_threshold()[0])]
        last = weakref.ref(litter[-1])
        del litter
        for step in range(12):
            bench.desk.apply(lambda shop, x=step: move_thing(shop, "jointer", 2.0 + 0.01 * x, 1.5), "Move")
            bench.settle()
        bench.bot.waitUntil(lambda: last() is None, timeout=10_000)
    finally:
        gc.callbacks.remove(note)
    assert threads == {threading.get_ident()}


def test_the_latest_of_many_requests_is_the_one_that_is_answered(bench: Bench) -> None:
    bench.demo("garage")
    for step in range(30):
        bench.desk.apply(lambda shop, x=step: move_thing(shop, "jointer", 2.0 + 0.01 * x, 1.5), "Move")
    bench.settle()
    assert bench.window.bench.latest.results.shop is bench.desk.shop
