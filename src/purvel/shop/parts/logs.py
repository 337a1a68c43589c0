"""What is noted of logs, as parts: marked stretches, events, units of columns."""

from dataclasses import replace

from purvel.shop.air import LogEvent, LogStretch, LogUnit
from purvel.shop.part import Part, Ref
from purvel.shop.shop import Shop


def _put(shop: Shop, stretches: tuple[LogStretch, ...]) -> Shop:
    return replace(shop, air=replace(shop.air, stretches=stretches))


def _put_events(shop: Shop, events: tuple[LogEvent, ...]) -> Shop:
    ordered = tuple(sorted(events, key=lambda one: one.at))
    return replace(shop, air=replace(shop.air, events=ordered))


def _put_units(shop: Shop, units: tuple[LogUnit, ...]) -> Shop:
    return replace(shop, air=replace(shop.air, log_units=units))


STRETCHES = Part(
    "log stretch",
    LogStretch,
    lambda shop: shop.air.stretches,
    _put,
    refs=(Ref("attachment", lambda one: (one.log,), lambda *_: None, "is marked in a log"),),
    unique=True,
)

EVENTS = Part(
    "event of a log",
    LogEvent,
    lambda shop: shop.air.events,
    _put_events,
    lambda _, one: one.name or "an event",
    refs=(Ref("attachment", lambda one: (one.log,), lambda *_: None, "is noted in a log"),),
    unique=True,
)

UNITS = Part(
    "unit of a column",
    LogUnit,
    lambda shop: shop.air.log_units,
    _put_units,
    lambda _, one: f"the unit of {one.column}",
    refs=(Ref("attachment", lambda one: (one.log,), lambda *_: None, "is of a log"),),
    pickable=False,
    id_of=lambda one: f"unit/{one.log}/{one.column}",
    subject=lambda _: "The unit of a column",
)
