"""What all commands share: their options, reading the shop, ending with one plain sentence."""

from __future__ import annotations

import sys
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any, NoReturn

import typer

from purvel.demo import NAMES, demo_bytes

if TYPE_CHECKING:  # the window is painted before shops are loaded
    from purvel.files import Document
    from purvel.shop import Shop

UsageError: Any = typer.BadParameter.__bases__[0]  # Typer exports only its children

app = typer.Typer(
    add_completion=False, no_args_is_help=False, pretty_exceptions_enable=False, rich_markup_mode=None
)

File = Annotated[Path | None, typer.Argument(help="A .purvel file.", show_default=False)]
Demo = Annotated[
    str | None, typer.Option("--demo", help=f"A demo shop: {', '.join(NAMES)}.", show_default=False)
]
Scene = Annotated[
    str | None, typer.Option("--scene", help="The scene to look at; as drawn otherwise.", show_default=False)
]
AsJson = Annotated[bool, typer.Option("--json", help="Print JSON in SI units (docs/report.md).")]
ONE_SHOP = f"Name one file, or --demo with one of {', '.join(NAMES)}."


def refuse(sentence: str) -> NoReturn:
    """Ends with a sentence and code 2."""
    print(f"purvel: {sentence}", file=sys.stderr)
    sys.exit(2)


def not_written(path: Path | None, exc: OSError) -> NoReturn:
    """Ends because a file could not be written."""
    refuse(f"{path} could not be written: {(exc.strerror or str(exc)).lower()}.")


def read_document(file: Path | None, demo: str | None) -> Document:
    """The document that was named; ends with a sentence where it cannot be read."""
    from purvel.files import FileError, load, loads

    if (file is None) == (demo is None):
        refuse(ONE_SHOP)
    try:
        if demo is not None:
            return loads(_demo(demo), demo)
        assert file is not None
        found = load(file)
    except FileError as exc:
        refuse(str(exc))
    if found.said:
        print(f"purvel: {found.said}", file=sys.stderr)
    return found


def _demo(name: str) -> bytes:
    try:
        return demo_bytes(name)
    except KeyError:
        refuse(f"There is no demo “{name}”; there are {', '.join(NAMES)}.")


def scene_id(shop: Shop, name: str | None) -> str | None:
    """The id of the scene that was named; None for the shop as drawn."""
    from purvel.review.scenes import AS_DRAWN, scene_called

    try:
        return scene_called(shop, name or AS_DRAWN)
    except KeyError:
        known = (AS_DRAWN, *(one.name or one.id for one in shop.scenes))
        refuse(f"There is no scene “{name}”; this shop has {', '.join(known)}.")
