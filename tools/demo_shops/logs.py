"""Logs of the simulated monitor, for the demo shops: an evening of trying, with what was noted of it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from purvel.catalogue import captures, dust_sizes, operations
from purvel.devices.link import Recording
from purvel.devices.monitor import CHANNELS, Grain, Played, as_line, readings
from purvel.files import Document, attached
from purvel.review import Answers, Memory
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.dust import settled
from purvel.roomair.stretches import removal_rate
from purvel.shop import Shop
from purvel.shop.air import LogStretch

STEP = 10.0  # s
BEGUN = datetime(2026, 10, 17, 18, 30)


@dataclass(frozen=True)
class Phase:
    """Minutes with one thing going on; `mark` is what the stretch over it is called, none for no mark."""

    minutes: float
    shows: str
    mark: str = ""
    operation: str = ""
    capture: str = "none"
    cleaner: str = "off"
    door: str = "shut"
    hood: str = "none"
    wood: str = "oak"


def evening(shop: Shop, name: str, phases: tuple[Phase, ...], closed: float, opened: float = 6.0) -> Document:
    """The shop with a log that the simulated monitor would have made of these phases, in a room that has
    `closed` or `opened` air changes [1/h].
    """
    played, bounds = _played(shop, phases, closed, opened)
    heard = Recording(BEGUN, CHANNELS)
    heard.rows = [tuple(as_line(*one).split()) for one in readings(played, STEP, seed=7)]
    document = attached(Document(shop), name, heard.as_csv(), "log")
    log = document.shop.attachments[-1].id
    marked = [(phase, bound) for phase, bound in zip(phases, bounds) if phase.mark]
    stretches = tuple(_stretch(n, log, phase, bound) for n, (phase, bound) in enumerate(marked, start=1))
    air = replace(document.shop.air, stretches=stretches)
    return replace(document, shop=replace(document.shop, air=air))


def _played(
    shop: Shop, phases: tuple[Phase, ...], closed: float, opened: float
) -> tuple[Played, list[tuple[float, float]]]:
    """What a perfect monitor would see, and from when to when each phase is [s]."""
    room = Answers(shop, Memory()).of(RoomAnswers)
    sizes = settled(dust_sizes(), room.volume / room.floor_area)
    cleaners = [thing.cleaner for thing in shop.things if thing.cleaner is not None]
    now, rows, starts, at = np.zeros(len(sizes)), [np.zeros(len(sizes))], [], 0.0
    bounds = []
    for phase in phases:
        changes = opened if phase.door == "open" else closed
        running = [(one, 1.0) for one in cleaners] if phase.cleaner == "high" else []
        removal = np.array(
            [removal_rate(i, size, room.volume, changes, running) for i, size in enumerate(sizes)]
        )
        thrown = operations()[phase.operation].emission * 60 if phase.operation else 0.0
        past = thrown * (1 - captures()[phase.capture].share[1])
        level = np.array([past * size.share for size in sizes]) / (room.volume * removal)
        if phase.hood == "on" and phase.operation:
            starts.append(at)
        for _ in range(round(phase.minutes * 60 / STEP)):
            now = level + (now - level) * np.exp(-removal * STEP / 3600)
            rows.append(now)
        bounds.append((at, at + phase.minutes * 60))
        at += phase.minutes * 60
    grains = tuple(Grain(size.high, size.diameter) for size in sizes)
    played = Played(np.arange(len(rows)) * STEP, np.array(rows), grains, tuple(starts))
    return played, bounds


def _stretch(number: int, log: str, phase: Phase, bound: tuple[float, float]) -> LogStretch:
    return LogStretch(
        id=f"stretch-{number}",
        log=log,
        name=phase.mark,
        shows=phase.shows,
        start=bound[0],
        end=bound[1],
        cleaner=phase.cleaner,
        door=phase.door,
        hood=phase.hood,
        wood=phase.wood if phase.operation else "",
        work=operations()[phase.operation].name if phase.operation else "",
    )


CALM = Phase(12, "background", "Before work")
CONFUSED = (
    CALM,
    Phase(12, "work", "Sanding, dust bag", "random-orbit-sander", "bag"),
    Phase(40, "decay", "After the bag"),
    Phase(12, "work", "Sanding, vac and door", "random-orbit-sander", "sander-vac", door="open", hood="on"),
    Phase(30, "decay", "Door open", door="open"),
)
FAIR = (
    CALM,
    Phase(15, "work", "Sanding, nothing collected", "random-orbit-sander", "none"),
    Phase(45, "decay", "Cleaner off"),
    Phase(15, "work", "Sanding, vac", "random-orbit-sander", "sander-vac", hood="on"),
    Phase(45, "decay", "Cleaner on high", cleaner="high"),
)
SHORT = (
    Phase(6, "work", "Sanding, bag", "random-orbit-sander", "bag"),
    Phase(4, "decay", "Until I left"),
)
