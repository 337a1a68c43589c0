"""Writes what is found in the demo shops as text, one file each, for a reader and for the test that holds it.

Read the difference before it is committed: it is what the change says to the user.
"""

import sys
from collections.abc import Iterator
from dataclasses import replace
from datetime import date
from pathlib import Path

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.quantities import format_number
from purvel.review import Finding, Memory
from purvel.review.keep import answers as keep_answers
from purvel.review.reviewing import first_review, whole_review

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
DAY = date(2026, 11, 27)


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


if __name__ == "__main__":
    keep_answers.today = lambda: DAY
    TOLD.mkdir(parents=True, exist_ok=True)
    for name, text in pages():
        (TOLD / name).write_text(text, "utf-8")
        sys.stdout.write(f"{name}\n")
