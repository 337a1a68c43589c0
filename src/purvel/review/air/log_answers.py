"""What the monitors' logs say: their channels, marked stretches, decays, two stretches compared."""

from __future__ import annotations

from dataclasses import dataclass

from purvel.catalogue import DustSize, dust_sizes
from purvel.libraries import Array
from purvel.once import once
from purvel.review.air.answers import AirAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.room.answers import RoomAnswers
from purvel.roomair.decays import Decay, Doubts, Ratio, Summary, compare, doubts, fit_decay, puff, summary
from purvel.roomair.dust import settled
from purvel.roomair.logs import Channel, Log, LogError, read_log
from purvel.shop import Attachment, Cleaner
from purvel.shop.air import LogStretch

QUESTIONS = (
    ("cleaner", "how the cleaner ran"),
    ("door", "the door"),
    ("hood", "the hood"),
    ("wood", "the wood"),
    ("work", "the work"),
)
_BACKGROUNDS = 1.5  # times: backgrounds that differ more are another air
_MATTERS = 0.1  # of the lesser rise: a difference of backgrounds below this explains nothing
_LENGTHS = 1.3  # times: stretches that differ more in length are not of the same minutes
_MASS_DIAMETER = 0.8  # of its cut: where most of what a PM figure weighs lies


@dataclass(frozen=True, slots=True)
class Comparison:
    """One stretch of work held against the first: how much of it, and all that differed or is not noted."""

    one: str
    other: str
    ratio: Ratio
    differs: tuple[str, ...]
    not_noted: tuple[str, ...]


class LogAnswers:
    """Logs of the document, as they are seen in the channel that was chosen."""

    def __init__(self, answers: Answers) -> None:
        self._answers, self._shop, self._ask = answers, answers.base, answers.ask

    @once
    def _read(self) -> dict[str, Log | str]:
        """Each log by its attachment, or why it cannot be read."""
        known = self._answers.memory.attachments
        return {
            one.id: self._ask(read_attached, one, known[one.sha256], self._units(one.id))
            for one in self._shop.attachments
            if one.kind == "log" and one.sha256 in known
        }

    def _units(self, log: str) -> tuple[tuple[str, str], ...]:
        """Units of a log's columns that were told by hand."""
        return tuple((one.column, one.unit) for one in self._shop.air.log_units if one.log == log)

    @once
    def logs(self) -> dict[str, Log]:
        """By attachment, those that can be read."""
        return {key: log for key, log in self._read.items() if isinstance(log, Log)}

    @once
    def unread(self) -> dict[str, str]:
        """By attachment, why a log cannot be read."""
        return {key: why for key, why in self._read.items() if isinstance(why, str)}

    def channel(self, log: str) -> Channel:
        """The channel of a log that is looked at."""
        return self.logs[log].channel(self._shop.air.channel)

    @once
    def stretches(self) -> list[LogStretch]:
        """Stretches in logs that can be read."""
        return [one for one in self._shop.air.stretches if one.log in self.logs]

    def readings(self, one: LogStretch) -> tuple[Array, Array]:
        """Seconds and values of a stretch."""
        log = self.logs[one.log]
        inside = (log.seconds >= one.start) & (log.seconds <= one.end)
        return log.seconds[inside], self.channel(one.log).values[inside]

    def summary(self, one: LogStretch) -> Summary:
        """A stretch in figures."""
        return summary(self.readings(one)[1])

    def doubts(self, log: str) -> Doubts:
        """What speaks against a log."""
        return doubts(self.logs[log].seconds, self.channel(log).values)

    def background(self, log: str) -> float | None:
        """The level of a log's background, where a stretch shows it."""
        shown = [one for one in self.stretches if one.log == log and one.shows == "background"]
        levels = [found.median for one in shown if (found := self.summary(one)).readings]
        return min(levels, default=None)

    def puff(self, one: LogStretch) -> float:
        """How many times the first minute of a stretch of work stands above what follows."""
        background = self.background(one.log)
        return 0.0 if background is None else puff(*self.readings(one), background)

    def decay(self, one: LogStretch) -> Decay:
        """The decay of a stretch that shows one."""
        log = self.logs[one.log]
        return self._ask(_decay, one, log, self.channel(one.log).name, self.background(one.log))

    @once
    def comparisons(self) -> list[Comparison]:
        """Every stretch of work against the first that was logged in the same column, each above its own
        background; above the lowest level where that is not marked.
        """
        found: list[Comparison] = []
        work = [one for one in self.stretches if one.shows == "work"]
        work.sort(key=lambda one: (self.logs[one.log].begun, one.start))
        for column in dict.fromkeys(self.channel(one.log).name for one in work):
            alike = [one for one in work if self.channel(one.log).name == column]
            found.extend(self._compared(one, alike[0]) for one in alike[1:])
        return found

    def _compared(self, one: LogStretch, other: LogStretch) -> Comparison:
        after, before = self.background(one.log), self.background(other.log)
        if after is None or before is None:
            after = before = min(self.summary(one).low, self.summary(other).low)
        ratio = compare(self.readings(one)[1] - after, self.readings(other)[1] - before, 0.0)
        differs, open_ = [], []
        for key, word in QUESTIONS:
            a, b = getattr(one, key), getattr(other, key)
            if a in ("", "not noted") or b in ("", "not noted"):
                open_.append(word)
            elif a != b:
                differs.append(f"{word} ({b}, then {a})")
        minutes = ((other.end - other.start) / 60, (one.end - one.start) / 60)
        if max(minutes) > _LENGTHS * max(min(minutes), 1e-9):
            differs.append(f"the minutes ({minutes[0]:.0f}, then {minutes[1]:.0f})")
        if one.place and other.place and one.place != other.place:
            differs.append(f"where the monitor stood ({other.place}, then {one.place})")
        rise = min(self.summary(one).mean - after, self.summary(other).mean - before)
        is_other = max(after, before) > _BACKGROUNDS * min(after, before) > 0
        if is_other and abs(after - before) > _MATTERS * rise:
            figures = (Figures.reading(before), Figures.reading(after))
            differs.append(f"the background ({figures[0]}, then {figures[1]})")
        return Comparison(one.id, other.id, ratio, tuple(differs), tuple(open_))

    # ---- the decay as a measurement

    def size(self, log: str) -> tuple[int, DustSize] | None:
        """The class of sizes that a log's channel mostly shows, with its number; None without a room."""
        room, channel = self._answers.of(RoomAnswers), self.channel(log)
        if room.floor_area <= 0:
            return None
        sizes = self._ask(settled, dust_sizes(), room.volume / room.floor_area)
        seen = channel.size * (_MASS_DIAMETER if channel.kind == "mass" else 1.0) or 1.0
        return next(((i, size) for i, size in enumerate(sizes) if seen < size.high), (0, sizes[0]))

    def air_changes(self, one: LogStretch) -> tuple[float, float, float] | None:
        """Air changes that a decay shows [1/h]: its rate less what settles of that size; central, low, high.
        None where the decay cannot be told.
        """
        decay, size = self.decay(one), self.size(one.log)
        if decay.why_not or size is None:
            return None
        central, low, high = (
            max(0.0, rate - size[1].settling) for rate in (decay.rate, decay.low, decay.high)
        )
        return central, low, high

    def cleaner(self) -> tuple[str, Cleaner] | None:
        """The one cleaner that hangs here; None where there is none, or more."""
        found = list(self._answers.of(AirAnswers).cleaners.items())
        return found[0] if len(found) == 1 else None

    def cleaned(self, log: str, mixing: float) -> float:
        """What the cleaner takes of what a log shows [1/h], if it reaches that share of the room."""
        found, size = self.cleaner(), self.size(log)
        if found is None or size is None:
            return 0.0
        return (
            3600.0
            * found[1].moves
            * found[1].efficiency[size[0]]
            * mixing
            / self._answers.of(RoomAnswers).volume
        )

    def assumed(self, one: LogStretch) -> float | str:
        """Air changes that the plan reckons with in a stretch's conditions, its cleaner among them [1/h]; or
        what must be noted before that can be said.
        """
        air, has = self._shop.air, sum(thing.cleaner is not None for thing in self._shop.things)
        if one.door == "not noted":
            return "whether a door stood open"
        changes = air.ach_open if one.door == "open" else air.ach_closed
        if not has:
            return (
                changes
                if one.cleaner in ("off", "not noted")
                else "the cleaner that ran, as a thing in the plan"
            )
        if one.cleaner == "not noted":
            return "how the cleaner ran"
        if one.cleaner == "off":
            return changes
        if one.cleaner == "low":
            return "what the cleaner moves at low"
        found = self.cleaner()
        return "which cleaner ran" if found is None else changes + self.cleaned(one.log, found[1].mixing)


def read_attached(_: Attachment, data: bytes, units: tuple[tuple[str, str], ...] = ()) -> Log | str:
    """A log that is attached, or the sentence that says why it cannot be read."""
    try:
        return read_log(data, dict(units))
    except LogError as exc:
        return str(exc)


def _decay(one: LogStretch, log: Log, channel: str, background: float | None) -> Decay:
    inside = (log.seconds >= one.start) & (log.seconds <= one.end)
    return fit_decay(log.seconds[inside], log.channel(channel).values[inside], background)
