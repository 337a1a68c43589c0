"""The simulated day and the monitors' logs as CSV."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from purvel.libraries import np
from purvel.lists.written import as_csv
from purvel.review import Answers, Memory
from purvel.review.air.answers import AirAnswers
from purvel.review.air.log_answers import LogAnswers
from purvel.roomair.stretches import BANDS
from purvel.shop import Shop
from purvel.shop.parts import name_of

STEP = 1.0  # min between rows of the day


def air_csv(shop: Shop) -> str:
    """The simulated day minute by minute [mg/m3]: the shop's dust by size and in all, central, low and high,
    what is breathed at the tool, and every room beyond. Only its heads where there is no day.
    """
    day = Answers(shop, Memory()).of(AirAnswers).day
    names = [] if day is None else [name_of(shop, room) for room in day.rooms if room]
    sizes = [] if day is None else [size.name for size in day.sizes]
    heads = ["minute", *sizes, "all dust", "all dust low", "all dust high", "at the tool", *names]
    if day is None:
        return as_csv(heads, ())
    central = day.courses["central"]
    columns = [central.by_size[:, k] for k in range(len(day.sizes))]
    columns += [central.total, *(day.courses[band].total for band in (BANDS[0], BANDS[2])), central.personal]
    columns += [courses["central"].total for room, courses in day.rooms.items() if room]
    minutes = np.arange(0.0, float(day.times[-1]) + 1e-9, STEP)
    held = [np.interp(minutes, day.times, column) for column in columns]
    rows = ([f"{minute:.0f}", *(f"{column[n]:.5g}" for column in held)] for n, minute in enumerate(minutes))
    return as_csv(heads, rows)


def logs_csv(shop: Shop, attachments: Mapping[str, bytes]) -> str:
    """All logs as they were read, reading by reading: by the clock, in the units that they are kept in, with
    the stretch that each reading is in and what was noted then.
    """
    logs = Answers(shop, Memory(attachments=attachments)).of(LogAnswers)
    rows = (row for key in logs.logs for row in _readings(shop, logs, key))
    return as_csv(("log", "time", "column", "value", "unit", "stretch", "event"), rows)


def _readings(shop: Shop, logs: LogAnswers, key: str) -> Iterator[tuple[str, ...]]:
    log, name = logs.logs[key], name_of(shop, key)
    stretches = [one for one in logs.stretches if one.log == key]
    noted = [one for one in shop.air.events if one.log == key]
    events = {int(np.argmin(np.abs(log.seconds - one.at))): one.name for one in noted}
    stamps = np.datetime64(log.begun, "ms") + (log.seconds * 1000).astype("timedelta64[ms]")
    for n, (second, stamp) in enumerate(zip(log.seconds, stamps)):
        within = " + ".join(one.name or one.shows for one in stretches if one.start <= second <= one.end)
        time = str(stamp).replace("T", " ")
        for channel in log.channels:
            if np.isfinite(channel.values[n]):
                value = f"{channel.values[n]:.6g}"
                yield name, time, channel.name, value, channel.unit, within, events.get(n, "")
