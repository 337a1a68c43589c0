"""The share of placing in the report: lanes, aisles, and how to mark it all on the floor."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

import msgspec

from purvel.libraries import shapely
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.place.answers import PlaceAnswers
from purvel.review.room.answers import RoomAnswers
from purvel.review.stage import Table
from purvel.shop import Fixture, Thing
from purvel.shop.parts import name_of
from purvel.space.aisles import WITH_BOARD, rolls_through
from purvel.space.lanes import FreeRun, Lane
from purvel.space.open_floor import OpenFloor
from purvel.space.roll_out import RollOut
from purvel.space.round_zones import RoundZone
from purvel.space.setout import SetOut, set_out
from purvel.space.supports import Support


def report(answers: Answers) -> dict[str, Any]:
    """Lanes, lines of throw, supports, round zones, aisles, open floor; in a scene what is rolled there."""
    place = answers.of(PlaceAnswers)
    return {
        "lanes": [_lane(lane) for lane in place.lanes.values()],
        "operation_lanes": [_lane(lane) for lane in place.other_lanes],
        "thrown": _by_fields(place.thrown),
        "supports": [_support(one) for one in place.supports],
        "mitre_slots": _by_fields(place.mitre_slots),
        "around": _by_fields(place.around),
        "round_zones": [_round_zone(one) for one in place.round_zones.values()],
        "open_floor": _open_floor(place.open_floor, place.open_floor_costs),
        "roll_outs": [_roll_out(start, one) for start, ways in place.roll_outs.items() for one in ways],
        "cars": _by_fields(place.cars),
        "aisles": [
            {
                "thing": aisle.thing,
                "width": aisle.width,
                "cut_off_by": aisle.cut_off_by,
                "with_board": aisle.most >= WITH_BOARD,
                "rolls": list(rolls_through(aisle, answers.shop.things)),
            }
            for aisle in place.aisles
        ],
    }


def _by_fields(found: Sequence[object]) -> Any:
    """Answers as they are, by the names of their fields; floors by their corners."""
    return msgspec.to_builtins(found, enc_hook=lambda floor: shapely.get_coordinates(floor).tolist())


def _round_zone(one: RoundZone) -> dict[str, Any]:
    return {
        "thing": one.thing,
        "mark": list(one.mark),
        "low": one.low,
        "high": one.high,
        "free": [list(span) for span in one.free],
    }


def _roll_out(start: str | None, one: RollOut) -> dict[str, Any]:
    return {
        "from": start,
        "thing": one.thing,
        "fits": one.fits,
        "turn": one.turn,
        "way": [[place.x, place.y, place.heading] for place in one.way],
        "length": one.length,
        "turned": one.turned,
        "blocked_by": list(one.blocked_by),
        "wants_castors": one.wants_castors,
    }


def _support(one: Support) -> dict[str, Any]:
    return {
        "machine": one.machine,
        "other": one.other,
        "at": one.at,
        "step": one.step,
        "gap": one.gap,
        "far": one.far,
        "shortest": one.shortest_that_passes,
        "longest": one.longest_that_stays,
    }


def _open_floor(found: OpenFloor | None, costs: dict[str, float]) -> dict[str, Any] | None:
    if found is None:
        return None
    return {
        "middle": list(found.middle),
        "angle": found.angle,
        "length": found.length,
        "width": found.width,
        "corners": [list(corner) for corner in found.corners],
        "costs": [{"thing": thing, "area": area} for thing, area in costs.items()],
    }


def _free_run(run: FreeRun) -> dict[str, Any]:
    kind, item = run.stopped_by or (None, None)
    return {
        "length": run.length,
        "stopped_by": {"kind": kind, "id": item} if kind else None,
        "then": run.then,
    }


def _lane(lane: Lane) -> dict[str, Any]:
    sheet = lane.largest_sheet
    return {
        "thing": lane.thing,
        "operation": lane.operation or None,
        "origin": list(lane.origin),
        "direction": lane.direction,
        "width": lane.width,
        "low": lane.low,
        "high": lane.high,
        "in": _free_run(lane.into),
        "out": _free_run(lane.out),
        "hand_room": lane.hand_room,
        "stock_length": lane.stock_length,
        "longest_board": lane.longest_board,
        "across": lane.across,
        "trims": lane.trims if lane.across else None,
        "held": list(lane.held) if lane.across else None,
        "largest_sheet": {"along": sheet.along, "across": sheet.across} if sheet else None,
    }


def tables(answers: Answers, say: Figures) -> Iterator[Table]:
    """Longest boards, and the set-out."""
    shop, lanes = answers.shop, answers.of(PlaceAnswers).lanes
    if lanes:
        rows = [
            (
                name_of(shop, lane.thing),
                say.length(lane.longest_board),
                say.length(lane.into.length),
                say.length(lane.out.length),
            )
            for lane in lanes.values()
        ]
        yield Table("Longest boards", ("Machine", "Longest board", "Free in", "Free out"), rows)
    if shop.things and answers.of(RoomAnswers).traverse.is_closed:
        heads = ("Thing", "Corner", "Square to one wall", "and to the other", "Turned", "Check, straight to")
        yield Table("Set-out", heads, list(_set_outs(answers, say)))


def _set_outs(answers: Answers, say: Figures) -> Iterator[tuple[str, ...]]:
    """Things and what cannot move by a corner of each, doors and windows along their wall."""
    items: list[Thing | Fixture] = [*answers.shop.things, *answers.shop.room.fixtures]
    for thing in items:
        mark = set_out(thing, answers.of(RoomAnswers).shell)
        corner = "" if mark is None else mark.corner
        walls = [] if mark is None else [f"{one.wall}: {say.length(one.distance)}" for one in mark.measures]
        yield (
            name_of(answers.shop, thing.id),
            corner,
            *walls,
            *[""] * (2 - len(walls)),
            f"{thing.angle % 360:.0f}°",
            "" if mark is None else _check(answers, mark, say),
        )
    for opening in answers.shop.room.openings:
        far = opening.offset + opening.width
        edges = [f"{opening.wall}: {say.length(at)}" for at in (opening.offset, far)]
        yield (name_of(answers.shop, opening.id), "edges", *edges, "along it", "")


def _check(answers: Answers, mark: SetOut, say: Figures) -> str:
    return "".join(
        f"{name_of(answers.shop, one.item)}: {say.length(one.distance)}" for one in mark.checks[:1]
    )
