"""Killed at any moment: the file is the old one or the new one, and what was kept before is there."""

import os
import random
import signal
import time
from pathlib import Path

import pytest

from purvel.files import Document, load, save
from purvel.files.autosave import Origin, Slot, discard, leftovers
from purvel.files.document import attached
from purvel.files.writing import PART
from purvel.shop import Shop

ROUNDS = 100


def write_on(path: Path, slots: Path, ready: int) -> None:
    """Saves and keeps ever newer states until it is killed; says over the pipe once the first is kept."""
    slot = Slot(slots)
    for number in range(1, 100_000):
        document = attached(Document(Shop(name=str(number))), "log", b"%d" % (number % 7))
        slot.keep(document, Origin(path))
        save(document, path)
        os.write(ready, b"%d\n" % number)


@pytest.mark.parametrize("seed", range(5))
def test_killed_at_random_moments_nothing_is_lost(tmp_path: Path, seed: int) -> None:
    chance = random.Random(seed)
    for number in range(ROUNDS // 5):
        path, slots = tmp_path / f"files{number}" / "shop.purvel", tmp_path / f"slots{number}"
        path.parent.mkdir()
        read, write = os.pipe()
        child = os.fork()
        if child == 0:
            try:
                write_on(path, slots, write)
            finally:
                os._exit(1)
        os.close(write)
        first = os.read(read, 100)
        assert first
        time.sleep(chance.uniform(0.0, 0.02))
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        said = first + b"".join(iter(lambda fd=read: os.read(fd, 10_000), b""))  # type: ignore[misc]
        os.close(read)
        saved = int(said.split()[-1])
        assert int(load(path).shop.name) in (saved, saved + 1)
        (left,) = leftovers(slots)
        assert int(left.shop.name) in (saved, saved + 1, saved + 2) and left.document.named()
        assert left.origin.path == path
        if path.with_name("shop.purvel.bak").exists():
            assert int(load(path.with_name("shop.purvel.bak")).shop.name) <= saved
        Slot(slots).close()  # the next start clears what is half-written
        discard(left.slot)
        assert list(slots.iterdir()) == []
        save(Document(Shop()), path)
        assert [scrap.name for scrap in path.parent.iterdir() if PART in scrap.name] == []
