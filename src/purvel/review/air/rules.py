"""Rules of the air: the day's exposure against the chosen limit, how long dust hangs, the cleaner, what is
assumed of hoods, the respirator.
"""

from collections.abc import Iterator

from purvel.catalogue import limits
from purvel.review.air.answers import AirAnswers
from purvel.review.air.log_rules import known_changes
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Rule
from purvel.shop.parts import name_of

LONG_CLEARING = 120.0  # min: dust that hangs two hours goes where you go [trade practice]
SLOW_CLEARING = 45.0  # min [trade practice]
AIR_CHANGES = 6.0  # 1/h of clean air: the usual advice for a shop cleaner [trade practice, medium confidence]
TRUSTED_CAPTURE = 0.5  # central capture above this supposes that the hood gets its flow


def _exposure(answers: Answers, say: Figures) -> Iterator[Finding]:
    day = answers.of(AirAnswers).day
    assert day is not None
    limit = limits()[answers.base.air.limit]
    low, central, high = (day.courses[band].average_8h for band in ("low", "central", "high"))
    figures = {
        "low": low,
        "average_8h": central,
        "high": high,
        "limit": limit.value,
        "peak": day.courses["central"].peak,
    }
    band = f"{say.dust(low)} to {say.dust(high)}"
    why = (
        f"Mean over the session of {say.minutes(day.session_minutes)}:"
        f" {say.dust(day.courses['central'].mean)}; spread over 8 h: {say.dust(central)} inhalable"
        f" (respirable part {say.dust(day.courses['central'].respirable_average_8h)}). Peak"
        f" {say.dust(day.courses['central'].peak)} at minute {day.courses['central'].peak_at:.0f}. Room"
        f" {say.volume(day.volume)}. Emissions are known to a factor of five: {band}."
    )
    basis = Basis(
        "published limit",
        f"{limit.name}, {limit.year}: {limit.value:g} mg/m³, 8 h, {limit.note}. For a private person"
        " guidance; check the current text.",
    )
    share = central / limit.value
    if central > limit.value:
        grade, sentence = (
            Grade.MEND,
            (
                f"The day averages {say.dust(central)} of inhalable dust, {share:.0%} of the {limit.value:g}"
                " mg/m³ you hold it against."
            ),
        )
    elif high > limit.value:
        grade = Grade.WATCH
        sentence = (
            f"The day averages about {say.dust(central)}, {share:.0%} of your limit, but may reach"
            f" {say.dust(high)}: only your own readings can tell."
        )
    else:
        grade, sentence = (
            Grade.GOOD,
            (
                f"The day averages {say.dust(central)}, {share:.0%} of your limit, and stays under it in the"
                f" worst case ({say.dust(high)})."
            ),
        )
    yield Finding("exposure", grade, ("session",), sentence, why, basis, Where(), figures)


def _clearing(answers: Answers, say: Figures) -> Iterator[Finding]:
    day = answers.of(AirAnswers).day
    assert day is not None
    after = day.courses["central"].clear_after
    level = answers.base.air.clean_level
    last = next(stretch for stretch in day.stretches if stretch.start >= day.last_cut - 1e-9)
    rates = ", ".join(f"{rate:.1f} for {size.name}" for rate, size in zip(last.removal, day.sizes))
    sentence = (
        f"After the last cut it takes {say.minutes(after)} until the air is under {say.dust(level)} again."
    )
    why = (
        f"Removed per hour: {rates}. Fine dust leaves slowest; range"
        f" {say.minutes(day.courses['low'].clear_after)} to {say.minutes(day.courses['high'].clear_after)}."
        f" {known_changes(answers.base.air)}"
    )
    grade = (
        Grade.MEND
        if after is None or after > LONG_CLEARING
        else Grade.WATCH
        if after > SLOW_CLEARING
        else Grade.GOOD
    )
    basis = Basis("trade practice", "Well-mixed room with settling; the level to call clear is yours.")
    yield Finding(
        "clearing",
        grade,
        ("session",),
        sentence,
        why,
        basis,
        Where(),
        {"clear_after": float("inf") if after is None else after},
    )


def _cleaner(answers: Answers, say: Figures) -> Iterator[Finding]:
    day = answers.of(AirAnswers).day
    assert day is not None
    cleaners = tuple(thing.id for thing in answers.base.things if thing.cleaner)
    basis = Basis(
        "trade practice",
        "6 to 10 air changes of clean air an hour (medium confidence). A cleaner cannot protect you in the"
        " plume at the tool.",
    )
    wanted = AIR_CHANGES * day.volume / 3600.0
    changes = day.clean_delivery * 3600.0 / day.volume
    figures = {"air_changes": changes, "delivery": day.clean_delivery}
    why = (
        f"Clean air {say.flow(day.clean_delivery)} in {say.volume(day.volume)} is {changes:.1f} air changes"
        f" an hour; {AIR_CHANGES:g} ask for {say.flow(wanted)}."
    )
    if not cleaners:
        sentence = (
            f"No air cleaner: what gets past the hoods hangs. This room would want {say.flow(wanted)} of"
            " clean air."
        )
        yield Finding("cleaner", Grade.WATCH, ("room",), sentence, why, basis, Where(), figures)
    elif changes < AIR_CHANGES:
        sentence = (
            f"The cleaner gives {changes:.1f} air changes an hour; {AIR_CHANGES:g} are the usual advice."
        )
        yield Finding("cleaner", Grade.WATCH, ("room",), sentence, why, basis, Where(cleaners), figures)
    else:
        yield Finding(
            "cleaner",
            Grade.GOOD,
            ("room",),
            f"The cleaner gives {changes:.1f} air changes an hour.",
            why,
            basis,
            Where(cleaners),
            figures,
        )


def _capture(answers: Answers, say: Figures) -> Iterator[Finding]:
    """A capture that supposes a hood at a machine that has none, or whose hood is starved."""
    best: dict[str, tuple[float, float]] = {}
    for network in answers.drawn.of(DuctAnswers).networks:
        for one in network.sets:
            for hood in one.hoods:
                end = network.layout.segments[hood.segment].hood
                assert end is not None
                if hood.is_open and hood.flow > best.get(hood.thing, (0.0, 0.0))[0]:
                    best[hood.thing] = (hood.flow, end.chips_flow)
    named = set()
    for interval in answers.base.air.session.work:
        thing = answers.base.thing(interval.thing) if interval.thing else None
        if thing is None or interval.capture[1] < TRUSTED_CAPTURE or thing.id in named:
            continue
        named.add(thing.id)
        flow, need = best.get(thing.id, (0.0, min((port.chips_flow for port in thing.ports), default=0.0)))
        if flow >= 0.9 * need:
            continue
        name = name_of(answers.base, thing.id)
        has = (
            f"its hood gets at most {say.flow(flow)} of {say.flow(need)}"
            if flow
            else "it has no dust connection in the plan"
        )
        yield Finding(
            "capture-assumed",
            Grade.MEND,
            (thing.id,),
            f"The session counts on {interval.capture[1]:.0%} being caught at {name}, but {has}.",
            "Capture figures suppose that the hood gets the flow that clears its chips. Mend the duct first"
            " or lower the capture.",
            Basis("trade practice", "Capture by kind of hood (low confidence)."),
            Where((thing.id,)),
            {"flow": flow, "need": need},
        )


def _respirator(answers: Answers, say: Figures) -> Iterator[Finding]:
    day = answers.of(AirAnswers).day
    assert day is not None
    peak = day.courses["high"].peak
    yield Finding(
        "respirator",
        Grade.WATCH,
        ("session",),
        "Wear a fitted respirator (P100, P3 or FFP3) while you cut and sand: peaks may reach"
        f" {say.dust(peak)}.",
        "Until your own readings say otherwise. A paper mask is no respirator; a beard under the seal voids a"
        " tight one, a loose-fitting powered hood does not mind it. A half mask with P100 or P3 filters"
        " lowers what you breathe about ten times when it is fit-tested. Wood dust is a carcinogen (IARC"
        " group 1).",
        Basis("published limit", "29 CFR 1910.134 table 1; EN 529; IARC vol. 100C."),
        Where(),
        {"peak": peak},
    )


RULES: tuple[Rule, ...] = (_exposure, _clearing, _cleaner, _capture, _respirator)
