"""Lists every figure that the engines and rules go by, from the code, as docs/figures.md."""

import ast
import re
import sys
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src" / "purvel"
LISTED = ROOT / "docs" / "figures.md"
HEAD = """# The figures that Purvel goes by

Every figure that stands in the code of an engine or a rule, with what is said of it there: its unit, what
it is for, and in brackets its source or how far it is trusted. Tables of materials, machines, fittings and
prices are in `src/purvel/catalogue/*.toml`. `tools/list_figures.py` writes this page, and a test holds it
against the code: a figure changes here too, or not at all.

| room | figure | is | what it is |
| --- | --- | --- | --- |
"""


@dataclass(frozen=True)
class Figure:
    """A named figure: the module it stands in, its name and value as written, and what is said of it."""

    room: str
    name: str
    value: str
    about: str

    def row(self) -> str:
        """Its line in the table."""
        about = self.about.replace("|", "\\|")
        return f"| {self.room} | `{self.name}` | {self.value} | {about} |\n"


def figures() -> Iterator[Figure]:
    """All figures outside the window, in order of their modules."""
    for path in sorted(SOURCE.rglob("*.py")):
        room = path.relative_to(SOURCE).with_suffix("").as_posix()
        if room.startswith("app/"):
            continue
        text = path.read_text("utf-8")
        lines = text.splitlines()
        for node in ast.parse(text).body:
            if isinstance(node, ast.Assign) and _is_figure(node.value):
                names = ", ".join(ast.unparse(target).strip("()") for target in node.targets)
                yield Figure(
                    room,
                    names,
                    _written(node.value),
                    _about(lines, node.lineno, node.end_lineno or node.lineno),
                )


def _is_figure(value: ast.expr) -> bool:
    """Whether it is made of numbers alone: one, several in a row, or a sum of them."""
    if isinstance(value, ast.Tuple):
        return all(_is_figure(one) for one in value.elts)
    if isinstance(value, ast.BinOp):
        return _is_figure(value.left) and _is_figure(value.right)
    if isinstance(value, ast.UnaryOp):
        return _is_figure(value.operand)
    return isinstance(value, ast.Constant) and type(value.value) in (int, float)


def _written(value: ast.expr) -> str:
    """A figure as it is written, several without their brackets."""
    return ", ".join(map(ast.unparse, value.elts)) if isinstance(value, ast.Tuple) else ast.unparse(value)


def _about(lines: list[str], first: int, last: int) -> str:
    """What is said above a figure and beside it."""
    above: list[str] = []
    at = first - 2
    while at >= 0 and lines[at].startswith("#"):
        above.insert(0, lines[at])
        at -= 1
    beside = [match[0] for line in lines[first - 1 : last] if (match := re.search(r"#.*", line))]
    return " ".join(part.lstrip("# ").rstrip() for part in (*above, *beside))


def page() -> str:
    """The whole page."""
    return HEAD + "".join(figure.row() for figure in figures())


if __name__ == "__main__":
    LISTED.write_text(page(), "utf-8")
    sys.stdout.write(f"{LISTED.relative_to(ROOT)}\n")
