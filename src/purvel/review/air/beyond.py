"""Rooms beyond the shop: what gets into them through doors, stairs and hatches, and who breathes it."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue import limits
from purvel.review.air.answers import AirAnswers
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.stage import Candidate, Rule, Table
from purvel.roomair.course import RoomCourse
from purvel.roomair.people import breathed_by
from purvel.roomair.stretches import BANDS
from purvel.roomair.zones import exchange
from purvel.shop import NextRoom, Passage, Person, Shop
from purvel.shop.edits import change, fresh_id, put
from purvel.shop.parts import name_of

HOUSE_VOLUME = 200.0  # m3 that a house is taken to have until its own is entered [a guess]
_EXCHANGED = Basis(
    "trade practice",
    "Doors by the draught of warm against cold air (Kiel and Wilson), hatches by Cooper's vent, and what people"
    " push through (low confidence). All rooms as evenly mixed.",
)


def passages_of(answers: Answers, room: str) -> list[Passage]:
    """The passages of a room, as large as they are."""
    return [one for one in answers.of(AirAnswers).air.passages if room in (one.room, one.other)]


def _rooms(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What hangs in each room beyond the shop."""
    day = answers.of(AirAnswers).day
    assert day is not None
    air = answers.base.air
    shop = day.rooms[""]["central"]
    for room in air.rooms:
        low, middle, high = (day.rooms[room.id][band] for band in BANDS)
        share = middle.average_8h / shop.average_8h if shop.average_8h > 0 else 0.0
        name = name_of(answers.base, room.id)
        sentence = (
            f"In {name} hangs {share:.0%} of what hangs in the shop: {say.dust(middle.average_8h)} of wood dust over"
            f" 8 h, PM2.5 up to {_micrograms(middle.fine_peak)}."
        )
        doors = passages_of(answers, room.id)
        if not doors:
            sentence = f"Nothing leads to {name}: no dust gets there in this plan. Is there no door or stair?"
        why = (
            f"{_through(answers, doors, say)} {say.volume(room.volume)}, {room.changes:g} changes of outdoor air an"
            f" hour. Over 8 h {say.dust(low.average_8h)} to {say.dust(high.average_8h)}; PM2.5 {_micrograms(middle.fine_mean)} on"
            f" the mean, clear again {say.minutes(middle.fine_clear_after)} after the last cut."
        )
        limit = limits()[air.limit].value
        is_over = middle.average_8h > limit
        grade = Grade.MEND if is_over else Grade.WATCH if middle.fine_peak > air.clean_fine else Grade.GOOD
        if not doors:
            grade = Grade.WATCH
        figures = {"share": share, "average_8h": middle.average_8h, "fine_mean": middle.fine_mean}
        items = (room.id, *(one.id for one in doors))
        yield Finding("room-beyond", grade, (room.id,), sentence, why, _EXCHANGED, Where(items), figures)


def _through(answers: Answers, doors: list[Passage], say: Figures) -> str:
    parts = []
    for one in doors:
        low, middle, high = exchange(one)
        flow = f"{say.flow(middle)} each way"
        if one.kind != "given":
            flow += f" ({say.flow(low)} to {say.flow(high)})"
        parts.append(f"{name_of(answers.base, one.id)} {flow}{_when(one)}")
    return f"Through {', '.join(parts)}." if parts else ""


def _when(one: Passage) -> str:
    """When a passage stands open, in words."""
    if one.open == "part":
        return f" from minute {one.start:.0f} to {one.start + one.minutes:.0f}"
    return ", shut" if one.open == "never" else ""


def _unknown(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Doors to other rooms of which nothing is known."""
    air = answers.base.air
    known = {one.opening for one in air.passages}
    for opening in answers.base.room.openings:
        if opening.leads != "outdoors" and opening.id not in known:
            name = name_of(answers.base, opening.id)
            yield Finding(
                "beyond-unknown",
                Grade.WATCH,
                (opening.id,),
                f"{name[:1].upper()}{name[1:]} leads into {'the house' if opening.leads == 'house' else 'another room'}: what gets there is"
                " not reckoned, and the door counts as shut.",
                "Dust goes through an open door both ways, and under a shut one. Add the room that it leads to.",
                _EXCHANGED,
                Where((opening.id,)),
            )


def _people(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What others breathe who are about."""
    day = answers.of(AirAnswers).day
    assert day is not None
    limit = limits()[answers.base.air.limit].value
    for person in answers.base.air.people:
        low, middle, high = (breathed_by(day, person, band) for band in BANDS)
        grade = (
            Grade.MEND
            if middle.average_8h > limit
            else Grade.WATCH
            if high.average_8h > limit or middle.peak > answers.base.air.clean_level
            else Grade.GOOD
        )
        yield Finding(
            "person-breathes",
            grade,
            (person.id,),
            f"{_person_name(person)}, {_stay(answers, person)}, breathes {say.dust(middle.average_8h)} of wood dust over"
            f" 8 h, at the most {say.dust(middle.peak)}.",
            f"{say.dust(low.average_8h)} to {say.dust(high.average_8h)}; PM2.5 {_micrograms(middle.fine_mean)} on the mean of the"
            " stay. The room's air, as evenly mixed. Children and whoever has asthma do not wear what you wear.",
            Basis("published limit", f"{limits()[answers.base.air.limit].name}: {limit:g} mg/m³ over 8 h."),
            Where((person.id,)),
            {"average_8h": middle.average_8h, "peak": middle.peak},
        )


def _stay(answers: Answers, person: Person) -> str:
    where = "the shop" if person.room is None else name_of(answers.base, person.room)
    return f"in {where} from minute {person.start:.0f} to {person.start + person.minutes:.0f}"


def _person_name(person: Person) -> str:
    return person.name or "Somebody"


def _micrograms(value: float) -> str:
    return f"{value * 1000:.3g} µg/m³"


RULES: tuple[Rule, ...] = (_rooms, _unknown, _people)

HEADS = ("Where", "8 h, dust", "Peak", "PM2.5", "its peak", "Clear")


def rooms_table(answers: Answers, say: Figures) -> Iterator[Table]:
    """Every room and everybody; nothing where there is the shop alone."""
    day = answers.of(AirAnswers).day
    air = answers.base.air
    if day is None or not (air.rooms or air.people):
        return
    names = {"": "The shop"} | {one.id: one.name or one.id for one in air.rooms}
    rows = [(names[room], *_cells(courses["central"], say)) for room, courses in day.rooms.items()]
    for person in air.people:
        found = breathed_by(day, person, "central")
        where = names[person.room or ""]
        who = f"{_person_name(person)}, {where[:1].lower()}{where[1:]}, {person.start:.0f}–{person.start + person.minutes:.0f} min"
        rows.append(
            (who, say.dust(found.average_8h), say.dust(found.peak), _micrograms(found.fine_mean), "", "")
        )
    yield Table("Rooms and people", HEADS, rows)


def _cells(course: RoomCourse, say: Figures) -> tuple[str, ...]:
    return (
        say.dust(course.average_8h),
        say.dust(course.peak),
        _micrograms(course.fine_mean),
        _micrograms(course.fine_peak),
        say.minutes(course.fine_clear_after),
    )


# ---- cures


def shut(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    """Every passage of the room shut, each by itself and all."""
    doors = [
        one
        for one in answers.base.air.passages
        if finding.about[0] in (one.room, one.other) and one.open != "never"
    ]
    for one in doors:
        if one.kind in ("door", "hatch"):
            name = name_of(answers.base, one.id)
            yield f"Keep {name} shut", lambda shop, door=one.id: change(shop, door, open="never")


def less_there(before: Finding, after: Finding) -> bool:
    """Whether a fifth less of fine dust gets into a room."""
    return after.figures["fine_mean"] < 0.8 * before.figures["fine_mean"]


def add_room(finding: Finding, answers: Answers, _: Figures) -> Iterator[Candidate]:
    """A room behind the door, as large as a house is taken to be."""
    opening = finding.about[0]
    yield "Add the room that it leads to", lambda shop: behind(shop, opening)


def behind(shop: Shop, opening: str | None) -> Shop:
    """The shop with a room more and a door to it."""
    is_house = any(one.id == opening and one.leads == "house" for one in shop.room.openings)
    room = NextRoom(
        id=fresh_id(shop, "beyond"),
        name="the house" if is_house else "the room next door",
        volume=HOUSE_VOLUME,
    )
    shop = put(shop, room)
    return put(shop, Passage(id=fresh_id(shop, "passage"), room=room.id, opening=opening))


def report(answers: Answers) -> dict[str, object]:
    """Rooms and people with the figures of each band."""
    day = answers.of(AirAnswers).day
    if day is None:
        return {"rooms": [], "people": [], "passages": []}
    air = answers.of(AirAnswers).air
    volumes = {"": day.volume} | {one.id: one.volume for one in air.rooms}
    own = {one.id: one for one in air.rooms}
    return {
        "rooms": [
            {
                "id": room or None,
                "volume": volumes[room],
                "changes": own[room].changes if room else None,
                "cleaning": own[room].cleaning if room else None,
                "bands": {band: _of_course(course) for band, course in courses.items()},
            }
            for room, courses in day.rooms.items()
        ],
        "people": [
            {
                "id": one.id,
                "room": one.room,
                "start": one.start,
                "minutes": one.minutes,
                "bands": {
                    band: {"average_8h": found.average_8h, "peak": found.peak, "fine_mean": found.fine_mean}
                    for band in BANDS
                    if (found := breathed_by(day, one, band))
                },
            }
            for one in air.people
        ],
        "passages": [
            {
                "id": one.id,
                "room": one.room,
                "other": one.other,
                "kind": one.kind,
                "open": one.open,
                "start": one.start,
                "minutes": one.minutes,
                "exchange": list(exchange(one)),
            }
            for one in air.passages
        ],
    }


def _of_course(course: RoomCourse) -> dict[str, object]:
    keys = ("peak", "mean", "average_8h", "fine_mean", "fine_peak", "clear_after", "fine_clear_after")
    return {key: getattr(course, key) for key in keys}
