"""The whole review without a window: as JSON for scripts (docs/report.md) and as text for people.

SI in the JSON, the reader's units in the text.
"""

from collections.abc import Iterator
from typing import Any

from purvel import __version__
from purvel.airflow.sources import SourceCurve
from purvel.catalogue import limits
from purvel.review import Grade, Review, moves_for
from purvel.review.finding import STAGES
from purvel.review.reader import Reader
from purvel.review.results import chip_state
from purvel.roomair.day import BANDS, Day
from purvel.shop.parts import name_of
from purvel.space.lanes import FreeRun, Lane

VERSION = 1
SCENES = ("as drawn",)


def as_json(review: Review) -> dict[str, Any]:
    """The report as plain data. Keys are stable within a version."""
    results = review.results
    state = results.air_state
    trip = results.traverse
    return {
        "format": "purvel-report",
        "version": VERSION,
        "purvel": __version__,
        "shop": review.shop.name,
        "scene": SCENES[0],
        "air": {"pressure": state.pressure, "density": state.density, "viscosity": state.viscosity},
        "room": {
            "closed": trip.is_closed,
            "corners": [list(corner) for corner in trip.corners],
            "perimeter": trip.perimeter,
            "closing_gap": trip.gap_length,
            "suspect_walls": list(trip.suspects),
            "floor_area": results.floor_area,
            "volume": results.volume,
        },
        "lanes": [_lane(one) for one in results.lanes.values()],
        "aisles": [{"thing": one.thing, "width": one.width} for one in results.aisles],
        "ducts": [_network(review, number) for number in range(len(results.networks))],
        "session": _day(review, results.day),
        "findings": _findings(review),
    }


def _free_run(run: FreeRun) -> dict[str, Any]:
    kind, item = run.stopped_by or (None, None)
    return {"length": run.length, "stopped_by": {"kind": kind, "id": item} if kind else None}


def _lane(one: Lane) -> dict[str, Any]:
    sheet = one.largest_sheet
    return {
        "thing": one.thing,
        "origin": list(one.origin),
        "direction": one.direction,
        "width": one.width,
        "low": one.low,
        "high": one.high,
        "in": _free_run(one.into),
        "out": _free_run(one.out),
        "hand_room": one.hand_room,
        "stock_length": one.stock_length,
        "longest_board": one.longest_board,
        "largest_sheet": {"along": sheet.along, "across": sheet.across} if sheet else None,
    }


def _network(review: Review, number: int) -> dict[str, Any]:
    network = review.results.networks[number]
    layout = network.layout
    source = layout.source
    return {
        "source": layout.source_thing,
        "target": review.shop.ducts.target,
        "leak_area": review.shop.ducts.leak_area,
        "curve": {
            "points": [[point.flow, point.pressure] for point in source.curve],
            "pressure_is": source.pressure_is,
            "density": source.density,
            "shut_off": SourceCurve(source).shut_off,
        },
        "inlet_diameter": source.inlet_diameter,
        "outlet_diameter": source.outlet_diameter,
        "discharge_coefficient": source.discharge_loss if source.pressure_is == "total" else 0.0,
        "filter": (
            {"area": source.filter.area, "resistance": source.filter.resistance} if source.filter else None
        ),
        "separator": (
            {
                "kind": source.separator.kind,
                "on_diameter": source.separator.inlet_diameter,
                "loss_coefficient": source.separator.loss,
            }
            if source.separator
            else None
        ),
        "segments": [
            {
                "id": one.id,
                "run": one.run,
                "downstream": layout.segments[one.downstream].id if one.downstream >= 0 else None,
                "role": one.role,
                "length": one.length,
                "diameter": one.diameter,
                "roughness": one.roughness,
                "friction_multiplier": one.multiplier,
                "joins_at_angle": one.angle if one.is_branch else None,
                "fittings": [
                    {
                        "name": part.name,
                        "loss_coefficient": part.loss,
                        "on_diameter": part.section,
                        "coefficient_there": part.loss_there,
                    }
                    for part in one.fittings
                ],
                "gates": list(one.gates),
            }
            for one in layout.segments
        ],
        "gate_sets": [_gate_set(review, number, which) for which in range(len(network.sets))],
    }


def _gate_set(review: Review, number: int, which: int) -> dict[str, Any]:
    network = review.results.networks[number]
    one, layout = network.sets[which], network.layout
    return {
        "name": one.name,
        "open": list(one.open_gates),
        "converged": one.converged,
        "air_density": one.density,
        "flow": one.flow,
        "source_pressure": one.source_pressure,
        "separator_loss": one.separator_loss,
        "filter_loss": one.filter_loss,
        "discharge_loss": one.discharge_loss,
        "duct_suction": one.duct_suction,
        "segments": [
            {
                "id": segment.id,
                "length": segment.length,
                "diameter": segment.diameter,
                "roughness": segment.roughness,
                "flow": flow.flow,
                "speed": flow.speed,
                "velocity_pressure": flow.velocity_pressure,
                "reynolds": flow.reynolds,
                "friction_factor": flow.friction_factor,
                "friction_multiplier": segment.multiplier,
                "loss_coefficient": flow.fittings + flow.shut_gate + flow.junction,
                "of_which_fittings": flow.fittings,
                "of_which_shut_gates": flow.shut_gate,
                "of_which_junction": flow.junction,
                "pressure_loss": flow.loss,
                "total_pressure": flow.total_pressure,
                "static_pressure": flow.static_pressure,
                "chips": chip_state(layout, one, index),
            }
            for index, (segment, flow) in enumerate(zip(layout.segments, one.segments))
        ],
        "hoods": [
            {
                "thing": hood.thing,
                "port": hood.port,
                "open": hood.is_open,
                "path": [layout.segments[i].id for i in layout.way(hood.segment)],
                "flow": hood.flow,
                "flow_range": (
                    list(spread) if (spread := review.results.flow_range(number, which, column)) else None
                ),
                "port_diameter": end.diameter,
                "port_speed": hood.port_speed,
                "entry_coefficient": end.entry_loss,
                "entry_loss": hood.entry_loss,
                "static_suction": hood.static_suction,
                "chips_flow": end.chips_flow,
                "fine_flow": end.fine_flow,
            }
            for column, hood in enumerate(one.hoods)
            if (end := layout.segments[hood.segment].hood) is not None
        ],
    }


def _day(review: Review, day: Day | None) -> dict[str, Any] | None:
    if day is None:
        return None
    air = review.shop.air
    return {
        "volume": day.volume,
        "session_minutes": day.session_minutes,
        "last_cut": day.last_cut,
        "clean_level": air.clean_level,
        "limit": {
            "name": air.limit,
            "value": limits()[air.limit].value,
            "fraction": limits()[air.limit].fraction,
        },
        "cleaner_delivery": day.clean_delivery,
        "cleaners": [
            {"thing": thing.id, "flow": one.flow, "efficiency": list(one.efficiency), "mixing": one.mixing}
            for thing in review.shop.things
            if (one := thing.cleaner) is not None
        ],
        "outdoors": air.outdoors,
        "penetration": air.penetration,
        "work": [
            {
                "id": one.id,
                "start": one.start,
                "minutes": one.minutes,
                "emission": list(one.emission),
                "capture": list(one.capture),
            }
            for one in air.session.spells
        ],
        "sizes": [
            {
                "name": s.name,
                "low": s.low,
                "high": s.high,
                "diameter": s.diameter,
                "share": s.share,
                "settling": s.settling,
            }
            for s in day.sizes
        ],
        "stretches": [
            {
                "start": one.start,
                "end": one.end,
                "cleaner_on": one.cleaner_on,
                "air_changes": one.air_changes,
                "spells": list(one.spells),
                "removal": list(one.removal),
                "released": {band: list(one.released[band]) for band in BANDS},
            }
            for one in day.stretches
        ],
        "bands": {
            band: {
                "peak": course.peak,
                "peak_at": course.peak_at,
                "mean": course.mean,
                "average_8h": course.average_8h,
                "respirable_average_8h": course.respirable_average_8h,
                "clear_after": course.clear_after,
                "share_of_limit": course.average_8h / limits()[air.limit].value,
            }
            for band, course in day.courses.items()
        },
    }


def _findings(review: Review) -> list[dict[str, Any]]:
    return [
        {
            "rule": one.rule,
            "stage": one.stage,
            "grade": one.grade.word.lower(),
            "about": one.about,
            "sentence": one.sentence,
            "why": one.why,
            "basis": {"kind": one.basis.kind, "text": one.basis.text},
            "items": list(one.where.items),
            "point": list(one.where.point) if one.where.point else None,
            "gate_set": one.where.gate_set or None,
            "figures": {name: value if abs(value) < 1e300 else None for name, value in one.figures.items()},
            "moves": [
                {"label": move.label, "outcome": move.outcome} for move in moves_for(one, review.results)
            ],
        }
        for one in review.findings
    ]


def as_text(review: Review) -> str:
    """The report as people read it."""
    return "\n".join(_text(review)) + "\n"


def _text(review: Review) -> Iterator[str]:
    say = Reader(review.shop.units)
    results = review.results
    yield review.shop.name
    yield "=" * len(review.shop.name)
    yield f"{review.to_mend()} to mend. Local codes, the maker's manual and licensed trades decide."
    if results.traverse.is_closed:
        yield f"Room: {say.area(results.floor_area)} of floor, {say.volume(results.volume)} of air."
    if results.lanes:
        yield ""
        yield "Longest boards"
        for one in results.lanes.values():
            yield (
                f"  {name_of(review.shop, one.thing):28} {say.length(one.longest_board):>12}   in"
                f" {say.length(one.into.length)}, out {say.length(one.out.length)}"
            )
    for network in results.networks:
        yield ""
        yield f"Ducts of {name_of(review.shop, network.layout.source_thing)}"
        for flows in network.sets:
            yield f"  {flows.name}: {say.flow(flows.flow)} at {say.pressure(flows.source_pressure)}"
            for hood in flows.hoods:
                if hood.is_open:
                    yield (
                        f"    {name_of(review.shop, hood.thing):26} {say.flow(hood.flow):>10}  "
                        f" {say.pressure(hood.static_suction)} static suction"
                    )
    if results.day is not None:
        course = results.day.courses["central"]
        yield ""
        yield (
            f"Air: peak {say.dust(course.peak)}, 8 h average {say.dust(course.average_8h)} inhalable, clear"
            f" {say.minutes(course.clear_after)} after the last cut. Emissions are known to a factor of five."
        )
    for stage in STAGES:
        found = review.of(stage)
        if found:
            yield ""
            yield stage.capitalize()
        for finding in found:
            yield f"  {finding.grade.word:5}  {finding.sentence}"
            if finding.grade < Grade.GOOD:
                yield f"         {finding.why}"
                yield f"         Rests on {finding.basis.kind}: {finding.basis.text}"
                for move in moves_for(finding, results):
                    yield f"         Would help: {move.label}. → {move.outcome}"
