"""Writes one sheet: the kind is told by the name (plan.svg, binder.pdf, parts.csv, calendar.ics …) or by its
ending.
"""

import os
from pathlib import Path

from purvel.files import Document
from purvel.files.writing import write_whole
from purvel.lists import LISTS, LOGS, logs_csv
from purvel.review import Memory, review
from purvel.review.scenes import standing
from purvel.shop import Shop

KINDS = ("plan.svg", "binder.pdf", "tiles.pdf", "cutouts.pdf", "hoods.pdf", *LISTS, LOGS)


class ExportError(Exception):
    """A sheet that cannot be written. The message is one plain sentence."""


def write(document: Document, path: Path, scene: str | None = None) -> None:
    """Writes the shop as it stands in a scene, as the sheet that `path` names; whole or not at all."""
    ending = path.suffix.lower()
    if not path.parent.is_dir():
        raise ExportError(f"There is no folder {path.parent} to write into.")
    try:
        if ending in (".svg", ".pdf"):
            data = _drawn(document, scene, path)
        else:
            data = _listed(standing(document.shop, scene).shop, path, document)
        write_whole(path, data)
    except OSError as exc:
        raise ExportError(f"{path.name} could not be written: {(exc.strerror or str(exc)).lower()}.") from exc


def _listed(shop: Shop, path: Path, document: Document) -> bytes:
    """A list, by the ending where there is one of it, else by what its name holds."""
    stem, ending = path.stem.lower().replace("-", "").replace(" ", ""), path.suffix.lower()
    if ending == Path(LOGS).suffix and Path(LOGS).stem in stem:
        return logs_csv(shop, document.blobs).encode()
    fitting = [Path(name) for name in LISTS if name.endswith(ending) and ending]
    if len(fitting) > 1:
        fitting = [name for name in fitting if name.stem in stem]
        if not fitting:
            lists = ", ".join(name for name in LISTS if name.endswith(ending))
            raise ExportError(f"Which list? Put it into the name: {lists}.")
    if not fitting:
        raise ExportError(
            f"“{path.name}” is no kind of sheet that can be written; there are {', '.join(KINDS)}."
        )
    text = LISTS[fitting[0].name](shop)
    return text.encode()


def _drawn(document: Document, scene: str | None, path: Path) -> bytes:
    if not os.environ.get("DISPLAY") and not os.environ.get("WAYLAND_DISPLAY"):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from purvel.app.application import make_application
    from purvel.app.sheets.binder import binder_pdf
    from purvel.app.sheets.drawing import plan_svg
    from purvel.app.sheets.to_scale import cutouts_pdf, patterns_pdf, tiles_pdf
    from purvel.lists.paper import ScaleError, on_paper

    application = make_application(["purvel"])
    checked = review(document.shop, Memory(attachments=document.blobs), scene=scene)
    stem = path.stem.lower()
    try:
        if path.suffix.lower() == ".svg":
            data = plan_svg(checked)
        elif "tile" in stem:
            data = tiles_pdf(checked, on_paper(stem, checked.shop.units))
        elif "cutout" in stem.replace("-", ""):
            data = cutouts_pdf(checked, on_paper(stem, checked.shop.units))
        elif "hood" in stem:
            data = patterns_pdf(checked, on_paper(stem, checked.shop.units))
        else:
            data = binder_pdf(checked)
    except ScaleError as exc:
        raise ExportError(str(exc)) from exc
    del application
    return data
