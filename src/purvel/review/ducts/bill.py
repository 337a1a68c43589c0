"""What a duct system is bought as: sticks with what is cut from each, fittings, and the small things that
hold it together.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil, floor, pi

from purvel.airflow.cut_lengths import CutLength, cut_lengths
from purvel.airflow.paths import length_of
from purvel.catalogue import materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Shop
from purvel.upkeep.sticks import StickPlan, cut_sticks

SCREWS_A_JOINT = 3  # on sheet metal [trade practice]
JOINTS_A_CARTRIDGE = 20.0  # of sealant, 300 ml [trade practice, low]
TAPE_ROUNDS = 1.2  # times round a joint, with the overlap [trade practice]
WIRE_SPARE = 1.1  # times the length of plastic pipe that bonding wire runs along [trade practice]
CLAMPS_A_HOSE = 2  # one at each end
STUDS = 0.4064  # m: 16 in between studs or joists, where no wall says otherwise [trade practice]


@dataclass(frozen=True, slots=True)
class Sticks:
    """Pipe of one material and inside diameter [m]: its pieces [m], those of them that are joined from
    several sticks, and how they are cut.
    """

    material: str
    size: float
    pieces: tuple[float, ...]
    couplings: int
    offcuts: tuple[float, ...]
    plan: StickPlan


@dataclass(frozen=True, slots=True)
class Line:
    """A line of the bill: what, its inside diameter [m] (0: none), how many or how much, and of what unit."""

    what: str
    size: float
    amount: float
    unit: str


def sticks(answers: Answers) -> list[Sticks]:
    """By material and size, how the pipe is cut. A piece longer than a stick is whole sticks and a rest,
    coupled.
    """
    ducts, found = answers.shop.ducts, dict[tuple[str, float], list[CutLength]]()
    for piece in cut_lengths(ducts, answers.of(DuctAnswers).run_paths):
        found.setdefault((piece.material, piece.size), []).append(piece)
    return [_cut(answers, material, size, pieces) for (material, size), pieces in sorted(found.items())]


def _cut(answers: Answers, material: str, size: float, pieces: list[CutLength]) -> Sticks:
    ducts = answers.shop.ducts
    lengths, couplings = list[float](), 0
    for piece in pieces:
        whole = max(0, ceil(piece.length / ducts.stick - 1e-9) - 1)
        couplings += whole
        lengths += [*([ducts.stick] * whole), round(piece.length - whole * ducts.stick, 4)]
    offcuts = tuple(
        one.length for one in ducts.offcuts if one.material == material and abs(one.diameter - size) < 1e-6
    )
    plan = answers.ask(cut_sticks, tuple(lengths), ducts.stick, ducts.kerf, offcuts)
    return Sticks(material, size, tuple(lengths), couplings, offcuts, plan)


def bill(answers: Answers) -> list[Line]:
    """Everything that is bought, in the order in which it is asked for at a counter."""
    ducts = answers.of(DuctAnswers)
    cut = sticks(answers)
    lines = [
        Line(materials()[one.material].name_for_buying(), one.size, len(one.plan.sticks), "stick")
        for one in cut
    ]
    lines += [Line("Coupling", one.size, one.couplings, "piece") for one in cut if one.couplings]
    pipes = {run.id for run in answers.shop.ducts.runs if materials()[run.material].kind == "duct"}
    counted: dict[tuple[str, float, str], float] = {}
    for part in ducts.parts:
        if part.unit == "piece" or part.run not in pipes:
            key = part.part, part.size, part.unit
            counted[key] = counted.get(key, 0.0) + part.amount
    lines += [Line(what, size, ceil(10 * many) / 10, unit) for (what, size, unit), many in counted.items()]
    return [*lines, *_small(answers, cut)]


def _small(answers: Answers, cut: list[Sticks]) -> Iterator[Line]:
    """Hangers, clamps, screws, tape, sealant, wire."""
    shop, paths = answers.shop, answers.of(DuctAnswers).run_paths
    hangers, clamps, wire = Counter[float](), Counter[float](), 0.0
    for run in shop.ducts.runs:
        material, length = materials()[run.material], length_of(paths[run.id])
        if material.kind == "hose":
            clamps[run.diameter] += CLAMPS_A_HOSE
            continue
        hangers[run.diameter] += ceil(length / span(shop, material.span)) + 1
        wire += length * WIRE_SPARE if material.plastic else 0.0
    yield from (Line("Hose clamp", size, count, "piece") for size, count in sorted(clamps.items()))
    yield from (Line("Hanger", size, count, "piece") for size, count in sorted(hangers.items()))
    joints = [(one, 2 * len(one.pieces)) for one in cut]
    screws = sum(SCREWS_A_JOINT * count for one, count in joints if not materials()[one.material].plastic)
    tape = sum(count * pi * one.size * TAPE_ROUNDS for one, count in joints)
    every = sum(count for _, count in joints)
    yield from (
        Line(what, 0.0, amount, unit)
        for what, amount, unit in (
            ("Sheet-metal screw", screws, "piece"),
            ("Foil tape", ceil(tape), "m"),
            ("Sealant, 300 ml", ceil(every / JOINTS_A_CARTRIDGE), "piece"),
            ("Bonding wire and lugs, bare copper", ceil(wire), "m"),
        )
        if amount
    )


def span(shop: Shop, allowed: float) -> float:
    """How far hangers are apart [m]: as many studs as stay within what the pipe allows, one at the least."""
    spacing = max((wall.stud_spacing for wall in shop.room.walls if wall.stud_spacing > 0), default=STUDS)
    return max(1, floor(allowed / spacing + 1e-9)) * spacing
