"""Writes what is found and reported of the demo shops as text, for a reader and for the tests that hold it.

Read the difference before it is committed: it is what the change says to the user.
"""

import csv
import io
import json
import re
import sys
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from datetime import date
from math import sqrt
from pathlib import Path
from typing import Any
from zlib import crc32

import ezdxf
from ezdxf.entities import LWPolyline, Polyline
from ezdxf.math import Vec3

from purvel.demo import demo_bytes
from purvel.files import Document, loads
from purvel.lists import LISTS
from purvel.quantities import format_number
from purvel.report import as_json, as_text
from purvel.review import Answers, Finding, Memory
from purvel.review.ducts import routes
from purvel.review.ducts.routes import Routing
from purvel.review.keep import answers as keep_answers
from purvel.review.reviewing import first_review, whole_review
from purvel.review.stages import STAGES
from purvel.review.told import advising
from purvel.shop import Run, Shop

TOLD = Path(__file__).parents[1] / "tests" / "data" / "told"
SHOPS = {
    "garage": (None, "night"),
    "single-garage": (None, "night"),
    "spare-room": (None,),
    "garage-mended": (None,),
    "single-garage-mended": (None,),
    "spare-room-mended": (None,),
}
SEARCHED = ("garage", "single-garage", "spare-room", "garage-mended")
"""Those whose long searches are told too."""
ROUTED = ("garage", "garage-mended", "single-garage", "spare-room", "spare-room-mended")
LISTED = ("garage", "garage-mended", "spare-room")
DAY = date(2026, 11, 27)
SHORT = 160  # characters of words of one place in the report that are written out; more are only counted
NOISE = 10  # decimals: what is less is what rounding left
UNSAID = ("purvel", "upkeep.due", "findings.sentence", "findings.why", "findings.basis", "findings.moves")
"""Places in the report that depend on the day or version, or are told otherwise."""


def pages() -> Iterator[tuple[str, str]]:
    """File names with their text: each demo as drawn and in its scenes, in millimetres."""
    for name, scenes in SHOPS.items():
        document = loads(demo_bytes(name))
        shop = replace(document.shop, units="metric")
        memory = Memory(attachments=document.named())
        for scene in scenes:
            first = first_review(shop, memory, scene)
            found = (whole_review(first) if name in SEARCHED else first).findings
            yield f"{name}{'' if scene is None else f'-{scene}'}.txt", "\n".join(map(_told, found)) + "\n"


def _told(one: Finding) -> str:
    where = " ".join((*one.where.items, one.where.gate_set or "")).strip()
    figures = ", ".join(f"{name} {format_number(value)}" for name, value in one.figures.items())
    lines = (one.sentence, one.why, f"{one.basis.kind}: {one.basis.text}", f"({figures or 'no figures'})")
    return "\n  ".join((f"{one.grade.word} {one.stage} {one.rule} [{where}]", *lines)) + "\n"


def report_of(document: Document) -> tuple[dict[str, Any], str]:
    """The report, as somebody reads it who has nothing but its file; and what is printed of it, but for the
    findings in millimetres.
    """
    with advising(document.shop, Memory(attachments=document.named())) as advised:
        read: dict[str, Any] = json.loads(json.dumps(as_json(advised), allow_nan=False))
        metric = replace(advised.review, shop=replace(document.shop, units="metric"))
        printed = as_text(replace(advised, review=metric))
    return read, printed


def summed(report: Mapping[str, Any], printed: str) -> str:
    """What is printed but for the findings, and a line for each place in a report, lists taken together: of
    figures how many they are, their mean and the root of their mean square; of words each and how often. Then
    what helps each finding.
    """
    printed = printed[: printed.index(f"\n\n{STAGES[0].title}\n")]
    at = dict[str, list[Any]]()
    _gather(report, "", at)
    lines = [*map(_spaced, printed.split("\n")), ""]
    lines += [f"{place}: {_sum(found)}" for place, found in at.items() if not place.startswith(UNSAID)]
    for finding in report["findings"]:
        lines += [f"{finding['rule']} {' '.join(finding['about_ids'])}: {_moves(finding)}"]
    return "\n".join(lines) + "\n"


def _spaced(row: str) -> str:
    """A row of a table without the spaces that a figure of one more digit would move."""
    return re.sub("  +", "  ", row)


def _gather(part: Any, place: str, at: dict[str, list[Any]]) -> None:
    if isinstance(part, dict):
        for name, inner in part.items():
            _gather(inner, f"{place}.{name}" if place else name, at)
    elif isinstance(part, list):
        for inner in part:
            _gather(inner, place, at)
    else:
        at.setdefault(place, []).append(part)


def _sum(found: Sequence[Any]) -> str:
    numbers = [one for one in found if isinstance(one, (int, float)) and not isinstance(one, bool)]
    figures = [round(one, NOISE) + 0.0 for one in numbers]
    words = Counter(str(one) for one in found if not isinstance(one, (int, float)) or isinstance(one, bool))
    told = ", ".join(f"{one} x {count}" if count > 1 else one for one, count in sorted(words.items()))
    if len(told) > SHORT:
        told = f"{words.total()} words {crc32(re.sub('[0-9]', '', told).encode()):08x}"
    if figures:
        mean, root = sum(figures) / len(figures), sqrt(sum(one**2 for one in figures) / len(figures))
        told = f"{len(figures)} of {mean:.6g} ~ {root:.6g}" + (f", {told}" if told else "")
    return told


def _moves(finding: Mapping[str, Any]) -> str:
    of_day = finding["stage"] == "keep"
    moves = [one["label"] if of_day else f"{one['label']} -> {one['outcome']}" for one in finding["moves"]]
    return " | ".join(moves) or finding["nothing_small"] or "nothing"


def routes_of(shop: Shop, routing: Routing) -> str:
    """What routes are proposed: what each costs and keeps clear of, and where its runs lie [m]."""
    lines = []
    for one in routing.routes:
        sums = (one.cost, one.pipe, one.hose, one.elbows, one.branches, one.share, one.height)
        lines += [f"{one.name}: {', '.join(f'{value:.5g}' for value in sums)}", *one.given_up, *one.left_out]
        lines += [f"  {_laid(run)}" for run in one.shop.ducts.runs if run not in shop.ducts.runs]
    return "\n".join(lines) + "\n"


def _laid(run: Run) -> str:
    points = " ".join(f"({point.x:.3f}, {point.y:.3f}, {point.z:.3f})" for point in run.points)
    ends = f"{run.port} {run.joins} {', '.join(f'{gate.name} at {gate.at:.3f}' for gate in run.gates)}"
    return f"{run.name}, {run.material} {run.diameter:.4f}: {points} {ends}".rstrip()


def lists_of(shop: Shop) -> str:
    """What is written into lists, and of those with many rows the sums: of the air by column, of the drawing
    by layer and kind.
    """
    lines = []
    for name, write in LISTS.items():
        if name == "calendar.ics":  # which is of the day
            continue
        lines.append(name)
        text, at = write(shop), dict[str, list[Any]]()
        if name == "air.csv":
            _columns(text, at)
        elif name == "plan.dxf":
            _entities(text, at)
        lines += [f"{place}: {_sum(found)}" for place, found in at.items()] or text.splitlines()
    return "\n".join(lines) + "\n"


def _columns(text: str, at: dict[str, list[Any]]) -> None:
    heads, *rows = csv.reader(io.StringIO(text))
    for head, column in zip(heads, zip(*rows)):
        at[head] = [float(one) if re.fullmatch("[0-9.e-]+", one) else one for one in column]


def _entities(text: str, at: dict[str, list[Any]]) -> None:
    for one in ezdxf.read(io.StringIO(text)).modelspace():
        known = one.dxfattribs()
        kind = f"{known.get('layer')} {one.dxftype()}"
        if isinstance(one, (LWPolyline, Polyline)):
            points = one.points() if isinstance(one, Polyline) else one
            known["points"] = [value for point in points for value in point]
        for name, value in known.items():
            if name not in ("handle", "owner", "geometry"):
                at.setdefault(f"{kind} {name}", []).extend(
                    value if isinstance(value, (list, Vec3)) else [value]
                )


def first_sizes() -> None:
    """Routes are told with the first sizes that are thought of: which are best takes long."""
    real = routes.sizings
    routes.sizings = lambda *args: iter([next(iter(real(*args)))])


if __name__ == "__main__":
    keep_answers.today = lambda: DAY
    TOLD.mkdir(parents=True, exist_ok=True)
    for name, text in pages():
        (TOLD / name).write_text(text, "utf-8")
        sys.stdout.write(f"{name}\n")
    for name in SHOPS:
        (TOLD / f"{name}-report.txt").write_text(summed(*report_of(loads(demo_bytes(name)))), "utf-8")
    for name in LISTED:
        (TOLD / f"{name}-lists.txt").write_text(lists_of(loads(demo_bytes(name)).shop), "utf-8")
    first_sizes()
    for name in ROUTED:
        shop = loads(demo_bytes(name)).shop
        source = next(thing.id for thing in shop.things if thing.source is not None)
        *_, last = routes.routings(Answers(shop, Memory()), source)
        (TOLD / f"{name}-routes.txt").write_text(routes_of(shop, last), "utf-8")
