"""Rules of the air: the day's exposure against the chosen limit, how long dust hangs, the cleaner, what is
assumed of hoods, the respirator.
"""

from collections.abc import Iterator

from purvel.catalogue import captures, limits
from purvel.review.air.answers import AirAnswers
from purvel.review.air.hoods import AS_DRAWN, drawn_hood
from purvel.review.air.log_rules import known_changes
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Rule
from purvel.shop.parts import name_of

LONG_CLEARING = 120.0  # min: dust that hangs two hours goes where you go [trade practice]
SLOW_CLEARING = 45.0  # min [trade practice]
AIR_CHANGES = 6.0  # 1/h of clean air: the usual advice for a shop cleaner [trade practice, medium confidence]
TRUSTED_CAPTURE = 0.5  # central capture above this supposes that the hood gets its flow


def _exposure(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What is breathed at the machine over the day, against the limit: wood dust alone."""
    day = answers.of(AirAnswers).day
    assert day is not None
    limit = limits()[answers.base.air.limit]
    low, central, high = (day.courses[band].personal_8h for band in ("low", "central", "high"))
    middle = day.courses["central"]
    figures = {
        "low": low,
        "personal_8h": central,
        "high": high,
        "limit": limit.value,
        "room_8h": middle.average_8h,
        "peak": middle.personal_peak,
    }
    band = f"{say.dust(low)} to {say.dust(high)}"
    why = (
        f"At the tool while it is worked, else what hangs in the room: {say.dust(central)} of inhalable wood dust"
        f" over 8 h (respirable part {say.dust(middle.respirable_8h)}), at the most {say.dust(middle.personal_peak)}."
        f" The room's mean over the session of {say.minutes(day.session_minutes)} is {say.dust(middle.mean)}, over"
        f" 8 h {say.dust(middle.average_8h)}, its peak {say.dust(middle.peak)} at minute {middle.peak_at:.0f}. Room"
        f" {say.volume(day.volume)}. Emissions are known to a factor of five, the share of the minutes in which it"
        f" really cuts is a guess: {band}. Dust from outdoors is not in it."
    )
    measured = [one.name or one.id for one in answers.base.air.session.work if one.measured]
    if measured:
        why += f" What is caught at {', '.join(measured)} is your measurement."
    fine = [one.name or one.id for one in answers.base.air.session.work if one.fine is not None]
    if fine:
        why += (
            f" What {', '.join(fine)} gives off of PM2.5 is as your monitor read it; the coarse dust, most of what the limit is"
            " about, as estimated."
        )
    basis = Basis(
        "published limit",
        f"{limit.name}, {limit.year}: {limit.value:g} mg/m³, 8 h, {limit.note}. For a private person"
        " guidance; check the current text.",
    )
    grade, sentence = _exposure_verdict(central, high, limit.value, say)
    yield Finding("exposure", grade, ("session",), sentence, why, basis, Where(), figures)


def _exposure_verdict(central: float, high: float, limit: float, say: Figures) -> tuple[Grade, str]:
    """What an 8 h average is worth against a limit [mg/m3]."""
    share = central / limit
    if central > limit:
        grade, sentence = (
            Grade.MEND,
            (
                f"You breathe {say.dust(central)} of inhalable dust over the day, {share:.0%} of the"
                f" {limit:g} mg/m³ you hold it against."
            ),
        )
    elif high > limit:
        grade = Grade.WATCH
        sentence = (
            f"You breathe about {say.dust(central)} over the day, {share:.0%} of your limit, but it may be"
            f" {say.dust(high)}: only your own readings can tell."
        )
    else:
        grade, sentence = (
            Grade.GOOD,
            (
                f"You breathe {say.dust(central)} over the day, {share:.0%} of your limit, and stay under it in the"
                f" worst case ({say.dust(high)})."
            ),
        )
    return grade, sentence


def _clearing(answers: Answers, say: Figures) -> Iterator[Finding]:
    """How long the dust hangs: inhalable dust, and the fine part of it."""
    day, air = answers.of(AirAnswers).day, answers.base.air
    assert day is not None
    middle = day.courses["central"]
    after, fine = middle.clear_after, middle.fine_clear_after
    last = next(stretch for stretch in day.stretches if stretch.start >= day.last_cut - 1e-9)
    rates = ", ".join(f"{rate:.1f} for {size.name}" for rate, size in zip(last.removal, day.sizes))
    sentence = (
        f"After the last cut it takes {say.minutes(after)} until the air is under {say.dust(air.clean_level)} again,"
        f" {say.minutes(fine)} until its fine dust is under {air.clean_fine * 1000:.3g} µg/m³."
    )
    why = (
        f"Removed per hour: {rates}. Fine dust (PM2.5) leaves slowest; ranges"
        f" {say.minutes(day.courses['low'].clear_after)} to {say.minutes(day.courses['high'].clear_after)} and"
        f" {say.minutes(day.courses['low'].fine_clear_after)} to {say.minutes(day.courses['high'].fine_clear_after)}."
        f" {known_changes(air)}"
    )
    if air.outdoors > 0:
        why += f" Outdoors there are {say.dust(air.outdoors)}, which the room never falls under without a cleaner."
    longest = max(float("inf") if one is None else one for one in (after, fine))
    grade = Grade.MEND if longest > LONG_CLEARING else Grade.WATCH if longest > SLOW_CLEARING else Grade.GOOD
    basis = Basis(
        "trade practice",
        "Well-mixed room with settling; the levels to call clear are yours (15 µg/m³ of PM2.5 is WHO's 24 h guideline,"
        " 2021).",
    )
    figures = {
        "clear_after": float("inf") if after is None else after,
        "fine_clear_after": float("inf") if fine is None else fine,
    }
    yield Finding("clearing", grade, ("session",), sentence, why, basis, Where(), figures)


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
    running = changes if answers.base.air.session.cleaner_on else 0.0
    figures = {"air_changes": changes, "delivery": day.clean_delivery, "running": running}
    why = (
        f"Clean air {say.flow(day.clean_delivery)} of dust of 1 to 2.5 µm in {say.volume(day.volume)} is"
        f" {changes:.1f} air changes an hour; {AIR_CHANGES:g} ask for {say.flow(wanted)}."
    )
    if not cleaners:
        grade = Grade.WATCH
        sentence = (
            f"No air cleaner: what gets past the hoods hangs. This room would want {say.flow(wanted)} of"
            " clean air."
        )
    elif not answers.base.air.session.cleaner_on:
        grade = Grade.WATCH
        sentence = f"The cleaner is off all session; on, it would give {changes:.1f} air changes an hour."
    elif changes < AIR_CHANGES:
        grade = Grade.WATCH
        sentence = (
            f"The cleaner gives {changes:.1f} air changes an hour; {AIR_CHANGES:g} are the usual advice."
        )
    else:
        grade, sentence = Grade.GOOD, f"The cleaner gives {changes:.1f} air changes an hour."
    yield Finding("cleaner", grade, ("room",), sentence, why, basis, Where(cleaners), figures)


def _capture(answers: Answers, say: Figures) -> Iterator[Finding]:
    """A capture that supposes a hood at a machine that the drawn ducts do not give it."""
    air = answers.of(AirAnswers)
    named = set()
    for interval in answers.base.air.session.work:
        where = interval.thing or interval.id
        if interval.hood == AS_DRAWN or interval.measured or where in named:
            continue
        drawn, pull = captures()[drawn_hood(interval, air.pulls)], air.pulls.get(interval.id)
        wants = captures().get(interval.hood)
        counts_on = interval.capture[1] if wants is None else wants.share[1]
        needs_duct = counts_on >= TRUSTED_CAPTURE if wants is None else wants.ports > 0
        if not needs_duct or counts_on <= drawn.share[1] or (wants is None and interval.thing is None):
            continue
        named.add(where)
        place = f"at {name_of(answers.base, interval.thing)}" if interval.thing else f"for “{interval.name}”"
        if pull is None:
            has = "no duct leads there in the plan"
        elif pull.fed == 0:
            has = f"its hood gets at most {say.flow(pull.flow)} of {say.flow(pull.need)}"
        elif wants is not None and wants.vac and not pull.is_vac:
            has = "its hose leads to no vac"
        else:
            has = f"the ducts that are drawn make it “{drawn.name}”, {drawn.share[1]:.0%}"
        yield Finding(
            "capture-assumed",
            Grade.MEND,
            (where,),
            f"The session counts on {counts_on:.0%} being caught {place}, but {has}.",
            "Capture figures suppose the hood, and that it gets the flow that clears its chips. Draw or mend the"
            " duct first, or reckon with the hood as drawn.",
            Basis("trade practice", "Capture by kind of hood (low confidence)."),
            Where((where,)),
            {"flow": pull.flow if pull else 0.0, "need": pull.need if pull else 0.0},
        )


def _late_work(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Work that goes on beyond the session, which is not counted."""
    minutes = answers.base.air.session.minutes
    for interval in answers.base.air.session.work:
        over = interval.start + interval.minutes - minutes
        if over > 1e-6:
            lost = min(over, interval.minutes)
            yield Finding(
                "work-late",
                Grade.MEND,
                (interval.id,),
                f"“{interval.name or interval.id}” goes on {say.minutes(lost)} after the session's end:"
                " that is not counted.",
                f"It runs from minute {interval.start:.0f} to {interval.start + interval.minutes:.0f}, the session to"
                f" {minutes:.0f}.",
                Basis("geometry", "The session as entered."),
                Where((interval.id,)),
                {"over": lost},
            )


def _blown_out(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Collectors that blow outdoors: as much air has to come in."""
    air = answers.of(AirAnswers)
    by_source: dict[str, float] = {}
    for one in air.extractions.values():
        if one.outdoors:
            by_source[one.source] = max(one.flow, by_source.get(one.source, 0.0))
    flames = tuple(fixture for fixture in answers.base.room.fixtures if fixture.flame)
    for source, flow in by_source.items():
        name = name_of(answers.base, source)
        sentence = (
            f"{name} blows {say.flow(flow)} outdoors: as much has to come in, and in winter it is cold."
        )
        if flames:
            flame = name_of(answers.base, flames[0].id)
            sentence = f"{name} blows {say.flow(flow)} outdoors: it can draw flue gas back out of {flame}."
        yield Finding(
            "blown-out",
            Grade.STOP if flames else Grade.WATCH,
            (source,),
            sentence,
            "What is blown out is made up through every gap, a flue among them. Open a door or window while it runs. A"
            " licensed heating trade decides whether both may run together.",
            Basis(
                "published practice",
                "Make-up air and back-drafting: fuel-gas and heating practice (medium confidence).",
            ),
            Where((source, *(one.id for one in flames))),
            {"flow": flow},
        )


def _respirator(answers: Answers, say: Figures) -> Iterator[Finding]:
    day = answers.of(AirAnswers).day
    assert day is not None
    peak = day.courses["high"].personal_peak
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


RULES: tuple[Rule, ...] = (_exposure, _clearing, _cleaner, _capture, _late_work, _blown_out, _respirator)
