"""The `purvel` command: opens the window, reports, exports."""

import json
import sys
from pathlib import Path
from typing import Annotated, Any, NoReturn

import typer

from purvel import __version__
from purvel.demo import NAMES, demo_bytes
from purvel.files import Document, FileError, load, loads
from purvel.shop import Shop

COMMANDS = ("report", "export", "schema")
UsageError: Any = typer.BadParameter.__bases__[0]  # Typer exports only its children

app = typer.Typer(
    add_completion=False, no_args_is_help=False, pretty_exceptions_enable=False, rich_markup_mode=None
)

File = Annotated[Path | None, typer.Argument(help="A .purvel file.", show_default=False)]
Demo = Annotated[
    str | None, typer.Option("--demo", help=f"A demo shop: {', '.join(NAMES)}.", show_default=False)
]
Scene = Annotated[
    str | None,
    typer.Option(
        "--scene", help="The scene to look at, by its name; as drawn otherwise.", show_default=False
    ),
]


def main() -> None:
    """Runs the command; bad usage and unreadable input end with one plain line and exit code 2."""
    words = _demo_without_name(sys.argv[1:])
    if not any(word in COMMANDS for word in words[:1]) and not any(
        word in ("--help", "-h") for word in words
    ):
        words = ["open", *words]
    command = typer.main.get_command(app)
    try:
        code = command.main(args=words, prog_name="purvel", standalone_mode=False)
    except UsageError as exc:
        _refuse(exc.format_message().replace("\n", " "))
    except (typer.Abort, KeyboardInterrupt):
        sys.exit(130)
    except BrokenPipeError:
        sys.exit(0)
    except Exception as exc:  # noqa: BLE001  # the last border: a person gets a sentence, not a traceback
        print(
            f"purvel: something went wrong inside ({type(exc).__name__}: {exc}).".replace("\n", " "),
            file=sys.stderr,
        )
        sys.exit(1)
    sys.exit(code if isinstance(code, int) else 0)


def _demo_without_name(words: list[str]) -> list[str]:
    """`--demo` alone means the first demo."""
    found = []
    for word, following in zip(words, [*words[1:], "-"]):
        found.append(word)
        if word == "--demo" and (
            following.startswith("-") or (following not in NAMES and following in COMMANDS)
        ):
            found.append(NAMES[0])
    return found


def _refuse(sentence: str) -> NoReturn:
    print(f"purvel: {sentence}", file=sys.stderr)
    sys.exit(2)


def _document(file: Path | None, demo: str | None) -> Document:
    if (file is None) == (demo is None):
        _refuse(f"Name one file, or --demo with one of {', '.join(NAMES)}.")
    try:
        if demo is not None:
            return loads(_demo(demo), demo)
        assert file is not None
        return load(file)
    except FileError as exc:
        _refuse(str(exc))


def _demo(name: str) -> bytes:
    try:
        return demo_bytes(name)
    except KeyError:
        _refuse(f"There is no demo “{name}”; there are {', '.join(NAMES)}.")


@app.command("open", hidden=True)
def open_window(
    file: File = None,
    demo: Demo = None,
    version: Annotated[bool, typer.Option("--version", help="Print the version and end.")] = False,
) -> int:
    """Open the window, on a file or a demo shop."""
    if version:
        print(f"purvel {__version__}")
        return 0
    document = None if file is None and demo is None else _document(file, demo)
    try:
        from purvel.app import run
    except ImportError as exc:
        _refuse(
            f"The window needs Qt, which does not load here: {exc}. Run ./start, which says what to install."
        )
    return int(run(document, file))


def _scene(shop: Shop, name: str | None) -> str | None:
    """The id of the scene that was named; None for the shop as drawn."""
    from purvel.review.scenes import AS_DRAWN, scene_called

    try:
        return scene_called(shop, name or AS_DRAWN)
    except KeyError:
        known = (AS_DRAWN, *(one.name or one.id for one in shop.scenes))
        _refuse(f"There is no scene “{name}”; this shop has {', '.join(known)}.")


@app.command()
def report(
    file: File = None,
    demo: Demo = None,
    scene: Scene = None,
    as_json: Annotated[bool, typer.Option("--json", help="Print JSON in SI units (docs/report.md).")] = False,
) -> None:
    """Print the whole review of a shop."""
    from purvel import report as reports
    from purvel.review import review

    shop = _document(file, demo).shop
    reviewed = review(shop, scene=_scene(shop, scene))
    if as_json:
        print(json.dumps(reports.as_json(reviewed), indent=1, ensure_ascii=False, allow_nan=False))
    else:
        print(reports.as_text(reviewed), end="")


@app.command()
def export(
    to: Annotated[
        Path,
        typer.Option(
            "--to", help="plan.svg, plan.dxf, binder.pdf, parts.csv, setout.csv or any path ending so."
        ),
    ],
    file: File = None,
    demo: Demo = None,
    scene: Scene = None,
) -> None:
    """Write a drawing, a printed binder or a list."""
    from purvel.app.sheets import ExportError, write

    shop = _document(file, demo).shop
    try:
        write(shop, to, _scene(shop, scene))
    except ExportError as exc:
        _refuse(str(exc))
    except ImportError as exc:
        _refuse(f"Drawings need Qt, which does not load here: {exc}.")
    print(f"Wrote {to}")


@app.command()
def schema() -> None:
    """Print the JSON Schema of shop.json."""
    from purvel.files.schema import schema as make

    print(json.dumps(make(), indent=1))
