"""Rules of the room: does the tape walk close, do openings fit, is there a way in, is there a flame."""

from collections.abc import Iterator, Sequence

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.room.answers import RoomAnswers
from purvel.review.room.fixture_rules import doors_meet, fixtures, low_ceiling
from purvel.review.room.heights import wall_heights
from purvel.review.room.readings import proposal_words, reading_name, slip_words
from purvel.review.stage import Rule
from purvel.shop import Opening
from purvel.shop.parts import name_of
from purvel.space.traverse import Traverse, closing_wall

# m; 28 in: least width of a way out, OSHA 1910.36(g), taken as guidance [high confidence; not law for a
# private person]
WAY_OUT = 0.711


def closing_grade(room: RoomAnswers) -> Grade:
    """What the tape walk is worth; its finding and the colour of its drawing go by it."""
    traverse = room.traverse
    if not traverse.is_closed:
        return Grade.MEND
    if room.shell.floor.is_empty:
        return Grade.STOP
    return Grade.GOOD if traverse.holds and traverse.gap_length <= traverse.fair else Grade.MEND


_CLOSING = Basis(
    "trade practice",
    "A careful tape walk closes within 10 mm and 1 mm for each metre walked; turns read to a degree leave more (low"
    " confidence). Readings are made to agree by least squares, each by its own spread; slips are found by them too.",
)


def _closing(answers: Answers, say: Figures) -> Iterator[Finding]:
    room = answers.of(RoomAnswers)
    traverse, grade = room.traverse, closing_grade(room)
    figures = {
        "gap": traverse.gap_length,
        "perimeter": traverse.perimeter,
        "fair_gap": traverse.fair,
    }
    if not traverse.is_closed:
        yield _gap(answers, traverse, figures, say)
        return
    if grade == Grade.STOP:
        sentence = "The walls cross each other: one turn or one length is wrong."
        yield Finding(
            "walls-cross",
            grade,
            ("room",),
            sentence,
            "A floor plan whose walls cross has no inside.",
            Basis("geometry", "The walls as read."),
        )
        return
    why = (
        f"Walked {say.length(traverse.perimeter)} round; the tape ended {say.length(traverse.gap_length)} from where"
        f" it began, against a fair {say.length(traverse.fair)}. The gap is shared out over what was read, by how"
        " well each was read (least squares)."
    )
    more = len(traverse.misfits) - 2 * len(answers.shop.room.walls)
    if grade == Grade.GOOD:
        agree = f", and {more} more {'reading agrees' if more == 1 else 'readings agree'}" if more else ""
        sentence = f"The tape walk closes within {say.length(traverse.gap_length)}{agree}."
    else:
        sentence, why = _misses(answers, traverse, why, say)
    yield Finding(
        "closing-gap", grade, ("room",), sentence, why, _CLOSING, Where(_walls_of(answers, traverse)), figures
    )


def _misses(answers: Answers, traverse: Traverse, why: str, say: Figures) -> tuple[str, str]:
    """What readings leave that they do not by themselves, and which of them would explain it."""
    room = answers.shop.room
    lengths = " or ".join(slip.of for slip in traverse.slips if slip.what == "length")
    turns = " or ".join(slip.of for slip in traverse.slips if slip.what == "turn")
    names = [f"wall {lengths}" if lengths else "", f"the turn at the end of {turns}" if turns else ""]
    names += [reading_name(one, room) for one in traverse.slips if one.what in ("diagonal", "offset")]
    words = " or ".join(name for name in names if name)
    suspect = f"; {words} read wrong would explain it" if words else "; no single reading explains it"
    would = [slip_words(slip, room, say) for slip in traverse.slips]
    why += f" All would agree with {' or '.join(would)}." if would else ""
    if traverse.proposed is not None:
        why += f" {proposal_words(traverse.proposed, room, say)}"
    if traverse.gap_length > traverse.fair:
        return f"The tape walk misses its start by {say.length(traverse.gap_length)}{suspect}.", why
    worst = max(
        (one for one in traverse.misfits if one.what != "turn"),
        key=lambda one: abs(one.adjusted - one.read) / one.spread,
    )
    by = say.length(abs(worst.adjusted - worst.read))
    return f"The readings contradict each other, {reading_name(worst, room)} by {by}{suspect}.", why


def _walls_of(answers: Answers, traverse: Traverse) -> tuple[str, ...]:
    walls = {wall.id for wall in answers.shop.room.walls}
    return tuple(one for one in traverse.suspects if one in walls)


def _gap(answers: Answers, traverse: Traverse, figures: dict[str, float], say: Figures) -> Finding:
    """What is missing of a room whose walls do not meet yet."""
    turn, length = closing_wall(answers.shop.room, traverse)
    side = "left" if turn > 0 else "right"
    return Finding(
        "room-open",
        closing_grade(answers.of(RoomAnswers)),
        ("room",),
        f"The walls do not meet yet: {say.length(length)} is missing between the end of the last wall and"
        " the start of the first.",
        f"After {len(answers.shop.room.walls)} walls and {say.length(traverse.perimeter)} the tape ended"
        f" {say.length(traverse.gap_length)} from where it began. A turn of {abs(turn):.0f}° to the {side}"
        f" and a wall of {say.length(length)} would close it.",
        Basis("geometry", "The walls as they were read."),
        Where(),
        figures,
    )


def _paced(answers: Answers, say: Figures) -> Iterator[Finding]:
    paced = [wall for wall in answers.shop.room.walls if wall.provenance == "paced"]
    if paced:
        names = ", ".join(wall.id for wall in paced)
        yield Finding(
            "walls-guessed",
            Grade.WATCH,
            ("room",),
            f"{'Wall' if len(paced) == 1 else 'Walls'} {names} {'is' if len(paced) == 1 else 'are'} only"
            " paced: lanes that end there are as good as your stride.",
            f"A paced length is good to about one part in ten: {say.length(0.1 * paced[0].length)} on wall"
            f" {paced[0].id}.",
            Basis("a guess", "Paced, not taped."),
            Where(tuple(wall.id for wall in paced)),
        )


def _openings(answers: Answers, say: Figures) -> Iterator[Finding]:
    openings = [one for one in answers.shop.room.openings if one.wall in answers.of(RoomAnswers).sides]
    for one in openings:
        over = one.offset + one.width - answers.of(RoomAnswers).sides[one.wall].length
        if over > 0.001:
            yield Finding(
                "opening-off-wall",
                Grade.MEND,
                (one.id,),
                f"{name_of(answers.shop, one.id)} runs {say.length(over)} past the end of its wall.",
                f"It starts at {say.length(one.offset)} and is {say.length(one.width)} wide; the wall is"
                f" {say.length(answers.of(RoomAnswers).sides[one.wall].length)} long.",
                Basis("geometry", "The sizes as entered."),
                Where((one.id,)),
                {"over": over},
            )
        if one.head > answers.shop.room.ceiling.height + 1e-6:
            over = one.head - answers.shop.room.ceiling.height
            sentence = f"{name_of(answers.shop, one.id)} is {say.length(over)} taller than the ceiling."
            why = f"Head {say.length(one.head)}, ceiling {say.length(answers.shop.room.ceiling.height)}."
            yield Finding(
                "opening-too-tall",
                Grade.MEND,
                (one.id,),
                sentence,
                why,
                Basis("geometry", "As entered."),
                Where((one.id,)),
                {"over": over},
            )
    yield from _overlapping(answers, openings, say)


def _overlapping(answers: Answers, openings: Sequence[Opening], say: Figures) -> Iterator[Finding]:
    for i, a in enumerate(openings):
        for b in openings[i + 1 :]:
            shared = min(a.offset + a.width, b.offset + b.width) - max(a.offset, b.offset)
            if a.wall == b.wall and shared > 0.001 and a.sill < b.head and b.sill < a.head:
                sentence = f"Two openings in wall {a.wall} overlap by {say.length(shared)}."
                why = (
                    f"{name_of(answers.shop, a.id)} and {name_of(answers.shop, b.id)} share"
                    " that much of the wall."
                )
                where = Where((a.id, b.id))
                yield Finding(
                    "openings-overlap",
                    Grade.MEND,
                    (a.id, b.id),
                    sentence,
                    why,
                    Basis("geometry", "As entered."),
                    where,
                    {"shared": shared},
                )


def _way_in(answers: Answers, say: Figures) -> Iterator[Finding]:
    entries = [one for one in answers.shop.room.openings if one.entry]
    if answers.of(RoomAnswers).traverse.is_closed and not entries:
        yield Finding(
            "no-entry",
            Grade.MEND,
            ("room",),
            "No door is marked as the way in, so aisles cannot be measured.",
            "The aisle to each machine is measured from the door you come in by.",
            Basis("geometry", "The openings as entered."),
        )
    for one in entries:
        if one.width < WAY_OUT:
            yield Finding(
                "way-out-narrow",
                Grade.MEND,
                (one.id,),
                f"The way in and out is {say.length(one.width)} wide, less than the {say.length(WAY_OUT)}"
                " that a way out should keep.",
                f"{say.length(one.width)} against {say.length(WAY_OUT)}. Local codes decide.",
                Basis("published limit", "OSHA 1910.36(g), 28 in; for a private person guidance, not law."),
                Where((one.id,)),
                {"width": one.width},
            )


def _flames(answers: Answers, _: Figures) -> Iterator[Finding]:
    for one in answers.shop.room.fixtures:
        if one.flame:
            yield Finding(
                "flame",
                Grade.WATCH,
                (one.id,),
                f"{one.name or one.kind.capitalize()} has a flame in the same air as wood dust: keep"
                " collector, bags and settled dust away from it.",
                "Wood dust in the air burns from about 30 to 60 g/m³ and settled dust smoulders from about"
                " 260 °C. An exhaust fan can also pull flue gas back into the room. A licensed heating trade"
                " and local codes decide what may stand here.",
                Basis("published practice", "Combustible-dust literature, wood dust (medium confidence)."),
                Where((one.id,), (one.x, one.y)),
            )


RULES: tuple[Rule, ...] = (
    _closing,
    _paced,
    wall_heights,
    _openings,
    _way_in,
    low_ceiling,
    fixtures,
    doors_meet,
    _flames,
)
