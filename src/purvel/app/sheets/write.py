"""Writes one sheet: the kind is told by the name (plan.svg, plan.dxf, binder.pdf, parts.csv, setout.csv) or
by its ending.
"""

import os
from pathlib import Path

from purvel import lists
from purvel.shop import Shop

KINDS = ("plan.svg", "plan.dxf", "binder.pdf", "parts.csv", "setout.csv")


class ExportError(Exception):
    """A sheet that cannot be written. The message is one plain sentence."""


def write(shop: Shop, path: Path) -> None:
    """Writes the shop as the kind of sheet that `path` names."""
    ending = path.suffix.lower()
    if not path.parent.is_dir():
        raise ExportError(f"There is no folder {path.parent} to write into.")
    try:
        if ending == ".csv":
            path.write_text(_list(shop, path.stem.lower()), encoding="utf-8")
        elif ending == ".dxf":
            path.write_text(lists.plan_dxf(shop), encoding="utf-8")
        elif ending in (".svg", ".pdf"):
            _draw(shop, path, ending)
        else:
            raise ExportError(
                f"“{path.name}” is no kind of sheet that can be written; there are {', '.join(KINDS)}."
            )
    except OSError as exc:
        raise ExportError(f"{path.name} could not be written: {(exc.strerror or str(exc)).lower()}.") from exc


def _list(shop: Shop, stem: str) -> str:
    if "setout" in stem or "set-out" in stem:
        return lists.setout_csv(shop)
    if "parts" in stem:
        return lists.parts_csv(shop)
    raise ExportError("A list is either parts.csv or setout.csv: put “parts” or “setout” into its name.")


def _draw(shop: Shop, path: Path, ending: str) -> None:
    if not os.environ.get("DISPLAY") and not os.environ.get("WAYLAND_DISPLAY"):
        os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from purvel.app.application import make_application
    from purvel.app.sheets.drawing import draw_binder, draw_plan

    application = make_application(["purvel"])
    if ending == ".svg":
        draw_plan(shop, path)
    else:
        draw_binder(shop, path)
    del application
