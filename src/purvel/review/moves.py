"""Moves: changes that would help a finding.

Each is tried on the shop first; only those that lower the finding's grade or leave it gone are offered.
"""

from collections.abc import Callable, Iterator
from dataclasses import replace
from itertools import islice
from math import ceil, cos, radians, sin

from purvel.catalogue import captures, duct_sizes, make_thing, materials, operations
from purvel.libraries import shapely
from purvel.review.assemble import review
from purvel.review.finding import Finding, Grade, Move
from purvel.review.place import quick_findings, quick_rules
from purvel.review.reader import Reader
from purvel.review.results import Results, named_gate_sets
from purvel.shop import GateSet, Opening, Shop, Thing
from purvel.shop.edits import Edit, change, change_session, fresh_id, move_thing, put, remove
from purvel.shop.parts import name_of
from purvel.space.aisles import SQUEEZE
from purvel.space.clearances import polygon

MOST = 3  # moves offered for one finding
_STEP = 0.05  # m, of the search for a nudge
_RINGS = 24
# m: the shift that people would rather make than this turn [deg]
_TURN_COST = {0.0: 0.0, 90.0: 0.3, -90.0: 0.3, 180.0: 0.4, 15.0: 0.5, -15.0: 0.5}
_NEAR = 3  # things at a narrow place that are tried

Candidate = tuple[str, Edit]
Place = tuple[float, float, float]  # x, y [m], angle [deg]
Proposer = Callable[[Finding, Results, Reader], Iterator[Candidate]]


def moves_for(finding: Finding, results: Results) -> tuple[Move, ...]:
    """Up to three moves that were tried and help.

    Empty for what already holds and for rules that know none.
    """
    proposer = _PROPOSERS.get(finding.rule)
    if proposer is None or finding.grade == Grade.GOOD:
        return ()
    say = Reader(results.shop.units)
    tried = (_tried(finding, results, label, edit) for label, edit in proposer(finding, results, say))
    return tuple(islice((move for move in tried if move is not None), MOST))


def _tried(finding: Finding, results: Results, label: str, edit: Edit) -> Move | None:
    after = review(edit(results.shop), results.memory.fork(), (finding.stage,))
    if _stops(after.findings) - _stops(
        review(results.shop, results.memory.fork(), (finding.stage,)).findings
    ):
        return None  # cures one thing and stops another
    same = next((one for one in after.findings if one.key == finding.key), None)
    if same is None:
        return Move(label, "This finding is then gone.", edit)
    if same.grade > finding.grade or _much_better(finding, same):
        return Move(label, f"{same.grade.word}: {same.sentence}", edit)
    return None


def _stops(findings: tuple[Finding, ...]) -> set[str]:
    return {one.key for one in findings if one.grade == Grade.STOP}


def _much_better(before: Finding, after: Finding) -> bool:
    """The same grade, but a fifth of the way better in the figure that counts."""
    if after.grade < before.grade:
        return False
    for figure in ("average_8h", "clear_after"):
        if figure in before.figures and after.figures[figure] < 0.8 * before.figures[figure]:
            return True
    return (
        "longest_board" in before.figures
        and after.figures["longest_board"] > 1.2 * before.figures["longest_board"] + 0.1
    )


# ---- nudges ------------------------------------------------------------------------------------------------
# --------------------------


def _nudge(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    """The smallest shift of a movable thing that clears the finding, for each thing concerned."""
    for item in finding.where.items:
        thing = results.shop.thing(item)
        if thing is None or thing.settled:
            continue
        found = _smallest_shift(finding, results, thing)
        if found is not None:
            yield _move_words(thing, *found, say), _mover(thing.id, *found)


def _mover(thing_id: str, x: float, y: float, angle: float) -> Edit:
    return lambda shop: move_thing(shop, thing_id, x, y, angle)


def _move_words(thing: Thing, x: float, y: float, angle: float, say: Reader) -> str:
    name, turn = thing.name or thing.id, (angle - thing.angle + 180) % 360 - 180
    shift = _shift_words(x - thing.x, y - thing.y, say)
    turned = f"{abs(turn):.0f}° to the {'left' if turn > 0 else 'right'}" if abs(turn) < 179.9 else "round"
    if abs(turn) < 0.1:
        return f"Move {name} {shift}"
    return f"Move {name} {shift} and turn it {turned}" if shift else f"Turn {name} {turned}"


def _shift_words(dx: float, dy: float, say: Reader) -> str:
    words = []
    if abs(dx) > 1e-3:
        words.append(f"{say.length(abs(dx))} to the {'right' if dx > 0 else 'left'}")
    if abs(dy) > 1e-3:
        words.append(f"{say.length(abs(dy))} {'up' if dy > 0 else 'down'} the plan")
    return " and ".join(words)


def _smallest_shift(finding: Finding, results: Results, thing: Thing) -> Place | None:
    """Tries places of growing cost; the first where the finding is better and nothing in the stage got worse."""
    memory, say = results.memory.fork(), Reader(results.shop.units)
    rule = next(
        (rule for rule in quick_rules() if any(one.key == finding.key for one in rule(results, say))), None
    )
    if rule is None:  # the shop has changed since
        return None
    others = _burdens(results, finding)
    for x, y, angle in _places(thing):
        trial = memory.results(move_thing(results.shop, thing.id, x, y, angle))
        grades = [one.grade for one in rule(trial, say) if one.key == finding.key]
        if (
            all(grade > finding.grade for grade in grades)
            and not _collides(trial, thing)
            and _burdens(trial, finding) <= others
        ):
            return x, y, angle
    return None


def _collides(trial: Results, thing: Thing) -> bool:
    """Whether a thing stands in a wall or in another."""
    return any(clash.first == thing.id for clash in trial.outside) or any(
        thing.id in (one.first, one.second) for one in trial.overlaps
    )


def _places(thing: Thing) -> list[Place]:
    """Where a thing could go, the smallest change first: rings about where it is, and coarser ones of it
    turned.
    """
    found: list[tuple[float, Place]] = []
    for turn, cost in _TURN_COST.items():
        for ring in range(0 if turn else 1, _RINGS + 1, 4 if turn else 1):
            for direction in range(0, 360, 45 if ring else 360):
                distance = ring * _STEP
                x, y = (
                    thing.x + distance * cos(radians(direction)),
                    thing.y + distance * sin(radians(direction)),
                )
                found.append((cost + distance, (round(x, 4), round(y, 4), (thing.angle + turn) % 360)))
    return [place for _, place in sorted(found, key=lambda one: one[0])]


def _burdens(results: Results, finding: Finding) -> int:
    """How many Stop and Mend the place stage has besides a finding, without the slow aisle search."""
    quick = quick_findings(results, Reader(results.shop.units))
    return sum(one.grade <= Grade.MEND for one in quick if one.key != finding.key)


def _lane(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    shop = results.shop
    one = results.lanes[finding.about]
    for run in (one.into, one.out):
        if run.stopped_by is None:
            continue
        kind, item = run.stopped_by
        blocker = shop.thing(item) if kind == "thing" else None
        if blocker is not None and 0 < blocker.z + blocker.height - one.low <= 0.05:
            lower = one.low - 0.002 - blocker.z
            yield f"Lower {blocker.name} to {say.length(lower)}", _heightener(blocker, lower)
        if kind == "wall":
            for opening in shop.room.openings:
                if opening.wall == item and not opening.is_open:
                    yield f"Open {name_of(shop, opening.id)} while you feed", _opener(opening)
    yield from _nudge(finding, results, say)


def _aisle(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    """Room to stand where that is what is taken; else what stands at the narrowest place, moved off it."""
    standing = next(
        (
            one
            for one in quick_findings(results, say)
            if one.rule == "standing-room" and one.about == finding.about
        ),
        None,
    )
    if standing is not None:
        yield from _nudge(standing, results, say)
    # a squeeze is seldom worth the long search for more
    if finding.where.point is None or finding.grade == Grade.WATCH:
        return
    shift = ceil((SQUEEZE - finding.figures["width"] + finding.figures["error"]) / _STEP) * _STEP
    others, memory = _burdens(results, finding), results.memory.fork()
    for thing in _things_near(results.shop, *finding.where.point):
        for dx, dy in ((shift, 0.0), (0.0, shift), (-shift, 0.0), (0.0, -shift)):
            place = (thing.x + dx, thing.y + dy, thing.angle)
            trial = memory.results(move_thing(results.shop, thing.id, *place))
            if not _collides(trial, thing) and _burdens(trial, finding) <= others:
                yield _move_words(thing, *place, say), _mover(thing.id, *place)


def _things_near(shop: Shop, x: float, y: float) -> list[Thing]:
    """The things that could give way at a place, the nearest first."""
    spot = shapely.Point(x, y)
    loose = [thing for thing in shop.things if not thing.settled]
    return sorted(loose, key=lambda thing: spot.distance(polygon(thing)))[:_NEAR]


def _heightener(thing: Thing, height: float) -> Edit:
    return lambda shop: change(
        shop, thing.id, height=height, work_height=None if thing.work_height is None else height
    )


def _opener(opening: Opening) -> Edit:
    return lambda shop: put(shop, replace(opening, is_open=True))


def _way_in(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    doors = [one for one in results.shop.room.openings if one.kind != "window"]
    for door in sorted(doors, key=lambda one: one.kind != "swing"):
        yield f"Come in by {name_of(results.shop, door.id)}", _entry(door)


def _entry(door: Opening) -> Edit:
    return lambda shop: put(shop, replace(door, entry=True))


def _support(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    machine_id, other_id = finding.about.split("+")
    machine, other = results.shop.thing(machine_id), results.shop.thing(other_id)
    if machine is None or other is None or machine.work_height is None:
        return
    height = machine.z + machine.work_height - 0.002 - other.z
    yield (
        f"{'Trim' if finding.figures['step'] > 0 else 'Shim'} {other.name} to {say.length(height)}",
        _heightener(other, height),
    )


# ---- ducts -------------------------------------------------------------------------------------------------
# --------------------------


def _hood(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    yield from _fewer_gates(finding, results)
    yield from _other_sizes(finding, results, say)


def _fewer_gates(finding: Finding, results: Results) -> Iterator[Candidate]:
    """Drop or narrow the user's own gate sets that starve the hood."""
    for network in results.networks:
        for index in network.layout.hoods:
            hood = network.layout.segments[index].hood
            if hood is None or f"{hood.thing}.{hood.port}" != finding.about:
                continue
            own = {gate for i in network.layout.way(index) for gate in network.layout.segments[i].gates}
            for name, one in named_gate_sets(results.shop).items():
                if own & set(one.open) and set(one.open) - own:
                    label = f"Open only {name_of(results.shop, hood.thing)} instead of “{name}”"
                    yield (
                        label,
                        _gate_setter(
                            replace(
                                one,
                                open=tuple(sorted(own)),
                                name=f"{name_of(results.shop, hood.thing)} alone",
                            )
                        ),
                    )


def _gate_setter(gate_set: GateSet) -> Edit:
    return lambda shop: put(shop, gate_set)


def _other_sizes(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    """The runs on the hood's way in the next sizes up, the narrowest first."""
    for network in results.networks:
        for index in network.layout.hoods:
            hood = network.layout.segments[index].hood
            if hood is None or f"{hood.thing}.{hood.port}" != finding.about:
                continue
            runs = dict.fromkeys(network.layout.segments[i].run for i in network.layout.way(index))
            by_size = sorted(
                (run for run in results.shop.ducts.runs if run.id in runs), key=lambda run: run.diameter
            )
            for run in by_size:
                for size in [size for size in duct_sizes() if size > run.diameter + 1e-6][:2]:
                    yield (
                        f"Make {run.name or run.id} {say.size(size)} instead of {say.size(run.diameter)}",
                        _resizer(run.id, size),
                    )
                if materials()[run.material].kind == "hose" and run.material == "ribbed-hose":
                    yield f"Use smooth-bore hose for {run.name or run.id}", _rematerial(run.id, "smooth-hose")


def _resizer(run_id: str, size: float) -> Edit:
    return lambda shop: change(shop, run_id, diameter=size)


def _rematerial(run_id: str, material: str) -> Edit:
    return lambda shop: change(shop, run_id, material=material)


def _transport(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    """A narrower run, or one gate more."""
    run = next((run for run in results.shop.ducts.runs if run.id in finding.where.items), None)
    if run is not None:
        for size in [size for size in reversed(duct_sizes()) if size < run.diameter - 1e-6][:2]:
            yield (
                f"Make {run.name or run.id} {say.size(size)} instead of {say.size(run.diameter)}",
                _resizer(run.id, size),
            )
    chosen = named_gate_sets(results.shop).get(finding.about)
    if chosen is not None:
        for other in results.shop.ducts.runs:
            for gate in other.gates:
                if gate.id not in chosen.open:
                    yield (
                        f"Open {gate.name or gate.id} as well",
                        _gate_setter(replace(chosen, open=(*chosen.open, gate.id))),
                    )


def _stronger(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    for key in ("spiral", "snap-lock-26", "pressure-pipe"):
        yield f"Use {materials()[key].name.lower()}", _rematerial(finding.about, key)


def _connect_nothing(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    run = next((run for run in results.shop.ducts.runs if run.id == finding.about), None)
    if run is not None:
        yield f"Take {run.name or run.id} away", lambda shop: remove(shop, finding.about)


# ---- air ---------------------------------------------------------------------------------------------------
# --------------------------

_BETTER_HOOD = {
    "none": "bag",
    "saw-below": "saw-both",
    "mitre-port": "mitre-shroud",
    "bandsaw-one": "bandsaw-two",
    "sander-poor": "sander-vac",
    "hand-tool": "sander-vac",
    "bag": "sander-vac",
    "lathe": "lathe-sanding",
}


def _cleaner_air(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    """Better hoods, a cleaner, the doors; ranked by how much each lowers the day's average."""
    candidates = [*_better_hoods(results), *_more_cleaning(results), *_open_doors(results)]
    key = "clear_after" if finding.rule == "clearing" else "average_8h"

    def after(candidate: Candidate) -> float:
        trial = review(candidate[1](results.shop), results.memory.fork(), ("air",))
        return next((one.figures[key] for one in trial.findings if one.key == finding.key), 0.0)

    yield from sorted(candidates, key=after)


def _better_hoods(results: Results) -> Iterator[Candidate]:
    shop = results.shop
    by_share = {one.share: key for key, one in captures().items()}
    improved: dict[tuple[str, str], list[str]] = {}
    for spell in shop.air.session.spells:
        usual = operations()[spell.operation].capture if spell.operation in operations() else "none"
        now = by_share.get(spell.capture)
        better = _BETTER_HOOD.get(now or "", usual if spell.capture[1] < captures()[usual].share[1] else "")
        if better and captures()[better].share[1] > spell.capture[1]:
            improved.setdefault((spell.thing or spell.id, better), []).append(spell.id)
    for (thing, better), spells in improved.items():
        work = next(one.name for one in shop.air.session.spells if one.id in spells)
        what = f"at {name_of(shop, thing)}" if shop.thing(thing) else f"for “{work}”"
        yield f"{captures()[better].name} {what}", _capturer(tuple(spells), captures()[better].share)


def _capturer(spells: tuple[str, ...], share: tuple[float, float, float]) -> Edit:
    def edit(shop: Shop) -> Shop:
        changed = tuple(
            replace(one, capture=share) if one.id in spells else one for one in shop.air.session.spells
        )
        return change_session(shop, spells=changed)

    return edit


def _more_cleaning(results: Results) -> Iterator[Candidate]:
    shop = results.shop
    if not any(thing.cleaner for thing in shop.things):
        yield from _hang_a_cleaner(results)
    elif not shop.air.session.cleaner_on:
        yield "Switch the cleaner on for the session", lambda s: change_session(s, cleaner_on=True)
    if shop.air.session.cleaner_on and shop.air.session.run_on < 120:
        yield "Let the cleaner run two hours after work", lambda s: change_session(s, run_on=120.0)


def _hang_a_cleaner(results: Results) -> Iterator[Candidate]:
    """One in the middle under the ceiling, running."""
    shop, corners = results.shop, results.traverse.corners
    if not corners or any(thing.cleaner for thing in shop.things):
        return
    x, y = sum(c[0] for c in corners) / len(corners), sum(c[1] for c in corners) / len(corners)
    cleaner = make_thing("air-cleaner", fresh_id(shop, "air-cleaner"), x, y)
    cleaner = replace(cleaner, z=max(0.0, min(2.05, shop.room.ceiling.height - cleaner.height)))
    yield "Hang an air cleaner", lambda s: change_session(put(s, cleaner), cleaner_on=True)


def _cleaner(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    yield from _hang_a_cleaner(results)


def _open_doors(results: Results) -> Iterator[Candidate]:
    if not results.shop.air.session.doors_open and results.shop.room.openings:
        yield "Work with the doors open", lambda s: change_session(s, doors_open=True)


def _lower_capture(finding: Finding, results: Results, say: Reader) -> Iterator[Candidate]:
    spells = tuple(spell.id for spell in results.shop.air.session.spells if spell.thing == finding.about)
    yield "Count on nothing being caught there until it is", _capturer(spells, captures()["none"].share)


_PROPOSERS: dict[str, Proposer] = {
    "no-entry": _way_in,
    "bodies-overlap": _nudge,
    "outside-room": _nudge,
    "lane": _lane,
    "support-level": _support,
    "standing-room": _nudge,
    "aisle": _aisle,
    "door-swing": _nudge,
    "panel-space": _nudge,
    "overhead-door": _nudge,
    "bay-blocked": _nudge,
    "hood-flow": _hood,
    "chips-move": _transport,
    "duct-collapse": _stronger,
    "run-loose": _connect_nothing,
    "exposure": _cleaner_air,
    "clearing": _cleaner_air,
    "cleaner": _cleaner,
    "capture-assumed": _lower_capture,
}
