"""The `purvel` command: opens the window, reports, exports."""

import gc
import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager, nullcontext
from dataclasses import replace
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from purvel import __version__
from purvel.commands import ducts as _ducts  # noqa: F401  # it adds its commands
from purvel.commands.common import (
    ONE_SHOP,
    AsJson,
    Demo,
    File,
    Scene,
    UsageError,
    app,
    not_written,
    read_document,
    refuse,
    scene_id,
)
from purvel.demo import NAMES

if TYPE_CHECKING:
    from purvel.files import Document

COMMANDS = (
    "report",
    "export",
    "import",
    "schema",
    "log",
    "simulate",
    "kinds",
    "install-desktop",
    "sizes",
    "routes",
)
LASTING = ("open", "simulate")  # as long as somebody likes


@contextmanager
def _garbage_not_looked_for() -> Iterator[None]:
    """No garbage is looked for meanwhile; after that as before."""
    was_looked_for = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_looked_for:
            gc.enable()


def main() -> None:
    """Runs the command; bad usage and unreadable input end with one plain line and exit code 2."""
    words = _demo_without_name(sys.argv[1:])
    if not any(word in COMMANDS for word in words[:1]) and not any(
        word in ("--help", "-h") for word in words
    ):
        words = ["open", *words]
    command = typer.main.get_command(app)
    # what ends by itself ends before its garbage matters; looking for that is a tenth of a report
    garbage = nullcontext() if words[0] in LASTING else _garbage_not_looked_for()
    try:
        with garbage:
            code = command.main(args=words, prog_name="purvel", standalone_mode=False)
    except UsageError as exc:
        refuse(exc.format_message().replace("\n", " "))
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


@app.command("open", hidden=True)
def open_window(
    file: File = None,
    demo: Demo = None,
    version: Annotated[bool, typer.Option("--version", help="Print the version and end.")] = False,
    say_in_window: Annotated[
        bool,
        typer.Option(
            "--say-in-window", help="Open the window also where the file cannot be read, and say why there."
        ),
    ] = False,
) -> int:
    """Open the window, on a file or a demo shop."""
    if version:
        print(f"purvel {__version__}")
        return 0
    if file is not None and demo is not None:
        refuse(ONE_SHOP)
    try:
        from purvel.app.running import run
    except ImportError as exc:
        refuse(
            f"The window needs Qt, which does not load here: {exc}. Run ./start, which says what to install."
        )
    if file is not None and say_in_window:  # from a desktop, where nobody sees what is printed
        return run(file, partial(_load, file))
    named = file is not None or demo is not None
    return run(file, partial(read_document, file, demo) if named else None)


def _load(file: Path) -> "Document":
    from purvel.files import load  # not before the first paint

    return load(file)


@app.command()
def report(
    file: File = None,
    demo: Demo = None,
    scene: Scene = None,
    as_json: AsJson = False,
) -> None:
    """Print the whole review of a shop."""
    from purvel import report as reports
    from purvel.review import Memory
    from purvel.review.told import advising

    document = read_document(file, demo)
    shop = document.shop
    with advising(shop, Memory(attachments=document.blobs), scene=scene_id(shop, scene)) as found:
        if as_json:
            text = json.dumps(reports.as_json(found), indent=1, ensure_ascii=False, allow_nan=False) + "\n"
        else:
            text = reports.as_text(found)
    print(text, end="")


@app.command()
def export(
    to: Annotated[
        Path,
        typer.Option(
            "--to",
            help="plan.svg, plan.dxf, binder.pdf, tiles.pdf, cutouts.pdf, hoods.pdf, calendar.ics, parts.csv, bill.csv, quote.csv, setout.csv, tools.csv, buying.csv,"
            " air.csv, logs.csv,"
            " cutlist.csv, cuts.csv or any path ending so.",
        ),
    ],
    file: File = None,
    demo: Demo = None,
    scene: Scene = None,
) -> None:
    """Write a drawing, a printed binder or a list."""
    from purvel.app.sheets import ExportError, write

    document = read_document(file, demo)
    try:
        write(document, to, scene_id(document.shop, scene))
    except ExportError as exc:
        refuse(str(exc))
    except ImportError as exc:
        refuse(f"Drawings need Qt, which does not load here: {exc}.")
    print(f"Wrote {to}")


@app.command("import")
def take_in_list(
    lists: Annotated[list[Path], typer.Argument(help="CSV of tools, things to buy or parts to cut.")],
    into: Annotated[Path, typer.Option("--into", help="The .purvel file that takes them in.")],
    to: Annotated[
        Path | None, typer.Option("--to", help="Where it is written; over the file itself otherwise.")
    ] = None,
) -> None:
    """Take lists into a shop; a bad one changes nothing."""
    from purvel.files import FileError, save
    from purvel.lists import ListError, read_list, take_in

    document = read_document(into, None)
    try:
        for path in lists:
            shop, said = take_in(document.shop, read_list(path))
            document = replace(document, shop=shop)
            print(f"{path.name}: {said}")
        save(document, to or into)
    except (ListError, FileError) as exc:
        refuse(f"{exc} Nothing was written.")
    except OSError as exc:
        not_written(to or into, exc)


@app.command()
def schema() -> None:
    """Print the JSON Schema of shop.json."""
    from purvel.files.schema import schema as make

    print(json.dumps(make(), indent=1))


@app.command()
def log(
    file: Annotated[Path, typer.Argument(help="A monitor's CSV.", show_default=False)],
    background: Annotated[list[str] | None, typer.Option(help="Minutes of the background, as 0-10.")] = None,
    work: Annotated[
        list[str] | None,
        typer.Option(help="Minutes of work, as 12-20; the second is held against the first."),
    ] = None,
    decay: Annotated[list[str] | None, typer.Option(help="Minutes of a decay, as 20-50.")] = None,
    channel: Annotated[str, typer.Option(help="The column to look at, by its name.")] = "",
) -> None:
    """Print, as JSON, what a particle monitor's log says of marked stretches."""
    from purvel.review.air.log_marks import MarkError, told

    try:
        data = file.read_bytes() if file.is_file() else refuse(f"There is no file {file}.")
        marks = [
            (shows, mark)
            for shows, many in (("background", background), ("work", work), ("decay", decay))
            for mark in many or ()
        ]
        print(json.dumps(told(data, marks, channel), indent=1, ensure_ascii=False, allow_nan=False))
    except OSError as exc:
        refuse(f"{file} cannot be read: {(exc.strerror or str(exc)).lower()}.")
    except MarkError as exc:
        refuse(str(exc))


@app.command()
def simulate(
    device: Annotated[str, typer.Argument(help="meter, monitor, switchbox or gauge.", show_default=False)],
    file: File = None,
    demo: Demo = None,
    port: Annotated[
        int | None,
        typer.Option(help="Port here; 0 takes a free one.", min=0, max=65535, show_default=False),
    ] = None,
    speed: Annotated[
        float, typer.Option(help="So many times as fast as the clock.", min=0.01, max=100_000)
    ] = 1.0,
    step: Annotated[float, typer.Option(help="Seconds from reading to reading.", min=0.1, max=3600)] = 10.0,
    seed: Annotated[int, typer.Option(help="Another seed, another noise.", min=0, max=2**31)] = 1,
    odd: Annotated[
        list[str] | None,
        typer.Option(help="What a monitor does besides: jump, stuck, humid.", show_default=False),
    ] = None,
) -> None:
    """Stand in for an outside device on a port of this machine."""
    from purvel import stand_ins
    from purvel.shop import Shop

    shop = read_document(file, demo).shop if device in stand_ins.DEVICES else Shop()
    say = partial(print, flush=True)
    try:
        if device == "meter":
            stand_ins.serve_meter(shop, port, seed, say)
        elif device == "monitor":
            stand_ins.serve_monitor(shop, port, (step, speed, seed), odd or (), say)
        elif device == "switchbox":
            stand_ins.serve_switch_box(shop, port, speed, say)
        elif device == "gauge":
            stand_ins.serve_gauge(shop, port, seed, say)
        else:
            refuse(f"There is no stand-in “{device}”; there are {', '.join(stand_ins.DEVICES)}.")
    except stand_ins.StandInError as exc:
        refuse(str(exc))


@app.command("kinds")
def own_kinds(
    take_in: Annotated[
        Path | None, typer.Option("--take-in", help="Kinds from a TOML file.", show_default=False)
    ] = None,
    write_out: Annotated[
        Path | None, typer.Option("--write-out", help="All of them to a TOML file.", show_default=False)
    ] = None,
) -> None:
    """List your own kinds, take some in from a TOML file, or write them to one."""
    from purvel.files import FileError
    from purvel.files.own_kinds import Library

    library = Library()
    try:
        if take_in is not None:
            library.take_in(take_in)
        if write_out is not None:
            library.write_out(write_out)
        found = library.kinds()
    except FileError as exc:
        refuse(str(exc))
    for name, thing in found.items():
        print(f"{name}: {thing.width:.3f} by {thing.depth:.3f} m, {thing.height:.3f} m high")
    if not found:
        print("There are no kinds of your own yet: keep a placed thing as one, or take some in.")


@app.command("install-desktop")
def install_desktop(
    remove: Annotated[bool, typer.Option("--remove", help="Take them away again.")] = False,
) -> None:
    """Put the desktop's entry, icon and file type in place, for you alone: .purvel files then open here."""
    from purvel import desktop

    try:
        paths = desktop.for_this_user(sys.argv[0], remove=remove)
    except OSError as exc:
        refuse(f"{exc.filename} cannot be changed: {(exc.strerror or str(exc)).lower()}.")
    for path in paths:
        print(f"{'Removed' if remove else 'Written'}: {path}")
    if not paths:
        print("Nothing was in place.")
