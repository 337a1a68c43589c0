"""Commands of the ducts: searches for sizes and routes."""

from __future__ import annotations

import json
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from purvel.commands.common import AsJson, Demo, File, app, not_written, read_document, refuse

if TYPE_CHECKING:
    from purvel.files import Document
    from purvel.shop import Shop

Source = Annotated[str | None, typer.Option("--source", help="The id of the source.", show_default=False)]
Speeds = Annotated[str, typer.Option("--speeds", help="least or want: the speed that runs are asked for.")]
To = Annotated[
    Path | None, typer.Option("--to", help="Write the shop with what was found here.", show_default=False)
]


@app.command()
def sizes(
    file: File = None,
    demo: Demo = None,
    source: Source = None,
    aim: Annotated[str, typer.Option("--aim", help="cost or loss: what is to be least.")] = "cost",
    speeds: Speeds = "want",
    any_pipe: Annotated[bool, typer.Option("--any-pipe", help="Try other kinds of pipe, too.")] = False,
    any_source: Annotated[
        bool, typer.Option("--any-source", help="Try other sources of its kind, too.")
    ] = False,
    as_json: AsJson = False,
    to: To = None,
) -> None:
    """Find sizes for all runs, so that flows and speeds hold in every choice of gates."""
    from purvel.duct_searches import SizesFound

    document = read_document(file, demo)
    try:
        found = SizesFound(document.shop, source, aim, speeds, pipes=any_pipe, sources=any_source)
        print(json.dumps(found.as_json(), indent=1) if as_json else "\n".join(found.as_text()))
        _kept(document, found.shop, to)
    except ValueError as exc:
        refuse(str(exc))


@app.command()
def routes(
    file: File = None,
    demo: Demo = None,
    source: Source = None,
    speeds: Speeds = "want",
    take: Annotated[
        int, typer.Option("--take", help="Which of the proposals --to writes, by its number.", min=1)
    ] = 1,
    as_json: AsJson = False,
    to: To = None,
) -> None:
    """Propose duct runs from a source to the machines, clear of what is in the way, with their sizes."""
    from purvel.duct_searches import RoutesFound

    document = read_document(file, demo)
    try:
        found = RoutesFound(document.shop, source, speeds)
        print(json.dumps(found.as_json(), indent=1) if as_json else "\n".join(found.as_text()))
        if to is not None:
            _kept(document, found.shop(take), to)
    except ValueError as exc:
        refuse(str(exc))


def _kept(document: Document, shop: Shop, to: Path | None) -> None:
    """The document with another shop written where it was asked for."""
    from purvel.files import FileError, save

    if to is None:
        return
    try:
        save(replace(document, shop=shop), to)
    except FileError as exc:
        refuse(str(exc))
    except OSError as exc:
        not_written(to, exc)
