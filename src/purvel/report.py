"""The whole review without a window: as JSON for scripts (docs/report.md) and as text for people.

SI in the JSON, the reader's units in the text. Each stage brings its own share.
"""

from collections.abc import Iterator
from typing import Any

from purvel import __version__
from purvel.review import Figures, Finding, Grade
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.scenes import scene_name
from purvel.review.stage import Table
from purvel.review.stages import STAGES
from purvel.review.told import Advised

VERSION = 1  # of the report


def as_json(advised: Advised) -> dict[str, Any]:
    """The report as plain data. Keys are stable within a version."""
    review = advised.review
    found: dict[str, Any] = {
        "format": "purvel-report",
        "version": VERSION,
        "purvel": __version__,
        "shop": review.shop.name,
        "scene": scene_name(review.shop, review.scene),
        "scene_id": review.scene,
    }
    for stage in STAGES:
        found |= stage.report(review.answers)
    return found | {"findings": [_finding(advised, finding) for finding in review.findings]}


def _finding(advised: Advised, finding: Finding) -> dict[str, Any]:
    ducts, where = advised.review.answers.of(DuctAnswers), finding.where
    advice = advised.of(finding)
    return {
        "rule": finding.rule,
        "stage": finding.stage,
        "scene_id": finding.scene,
        "grade": finding.grade.word.lower(),
        "about": "+".join(_spoken(ducts, item) for item in finding.about),
        "about_ids": list(finding.about),
        "sentence": finding.sentence,
        "why": finding.why,
        "basis": {"kind": finding.basis.kind, "text": finding.basis.text},
        "items": list(where.items),
        "point": list(where.point) if where.point else None,
        "gate_set": None if where.gate_set is None else ducts.choice_name(where.gate_set),
        "gate_set_id": where.gate_set,
        "figures": {name: value if abs(value) < 1e300 else None for name, value in finding.figures.items()},
        "moves": [{"label": does, "outcome": outcome} for does, outcome in advice.remedies],
        "nothing_small": advice.none or None,
    }


def _spoken(ducts: DuctAnswers, item: str) -> str:
    """An id as the report has always written it: choices of gates by their names, ports as thing.port."""
    return ducts.choice_name(item) if item in ducts.choices else item.replace("/", ".")


def as_text(advised: Advised) -> str:
    """The report as people read it."""
    return "\n".join(_text(advised)) + "\n"


def _text(advised: Advised) -> Iterator[str]:
    review = advised.review
    say = Figures(review.shop.units)
    yield review.shop.name
    yield "=" * len(review.shop.name)
    if review.scene is not None:
        yield f"Scene: {scene_name(review.shop, review.scene)}"
    yield f"{review.to_mend()} to mend. Local codes, the maker's manual and licensed trades decide."
    for stage in STAGES:
        yield from stage.summary(review.answers, say)
    for stage in STAGES:
        for table in stage.tables(review.answers, say):
            yield ""
            yield from _rows(table)
    for stage in STAGES:
        found = review.of(stage.key)
        if found:
            yield ""
            yield stage.title
        for finding in found:
            yield from _finding_lines(advised, finding)


def _rows(table: Table) -> Iterator[str]:
    """A table in columns as wide as their longest cell."""
    rows = [table.heads, *table.rows]
    widths = [max(len(row[column]) for row in rows) for column in range(len(table.heads))]
    yield table.title
    for row in rows:
        yield ("  " + "   ".join(cell.ljust(width) for cell, width in zip(row, widths))).rstrip()


def _finding_lines(advised: Advised, finding: Finding) -> Iterator[str]:
    yield f"  {finding.grade.word:5}  {finding.sentence}"
    if finding.grade < Grade.GOOD:
        yield f"         {finding.why}"
        yield f"         Rests on {finding.basis.kind}: {finding.basis.text}"
        advice = advised.of(finding)
        for does, outcome in advice.remedies:
            yield f"         Would help: {does}. → {outcome}"
        if advice.none:
            yield f"         {advice.none}"
