"""Writes one sheet: the kind is told by the name (plan.svg, plan.dxf, binder.pdf, parts.csv, setout.csv) or
by its ending.
"""

import os
from pathlib import Path

from purvel import lists
from purvel.files.writing import write_whole
from purvel.review import review
from purvel.review.scenes import standing
from purvel.shop import Shop

KINDS = ("plan.svg", "plan.dxf", "binder.pdf", "parts.csv", "setout.csv")


class ExportError(Exception):
    """A sheet that cannot be written. The message is one plain sentence."""


def write(shop: Shop, path: Path, scene: str | None = None) -> None:
    """Writes the shop as it stands in a scene, as the sheet that `path` names; whole or not at all."""
    ending = path.suffix.lower()
    if not path.parent.is_dir():
        raise ExportError(f"There is no folder {path.parent} to write into.")
    try:
        if ending == ".csv":
            data = _list(standing(shop, scene).shop, path.stem.lower()).encode()
        elif ending == ".dxf":
            data = lists.plan_dxf(standing(shop, scene).shop).encode()
        elif ending in (".svg", ".pdf"):
            data = _drawn(shop, scene, ending)
        else:
            raise ExportError(
                f"“{path.name}” is no kind of sheet that can be written; there are {', '.join(KINDS)}."
            )
        write_whole(path, data)
    except OSError as exc:
        raise ExportError(f"{path.name} could not be written: {(exc.strerror or str(exc)).lower()}.") from exc


def _list(shop: Shop, stem: str) -> str:
    if "setout" in stem or "set-out" in stem:
        return lists.setout_csv(shop)
    if "parts" in stem:
        return lists.parts_csv(shop)
    raise ExportError("A list is either parts.csv or setout.csv: put “parts” or “setout” into its name.")


def _drawn(shop: Shop, scene: str | None, ending: str) -> bytes:
    if not os.environ.get("DISPLAY") and not os.environ.get("WAYLAND_DISPLAY"):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from purvel.app.application import make_application
    from purvel.app.sheets.drawing import binder_pdf, plan_svg

    application = make_application(["purvel"])
    checked = review(shop, scene=scene)
    data = plan_svg(checked) if ending == ".svg" else binder_pdf(checked)
    del application
    return data
