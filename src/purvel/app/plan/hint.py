"""Words in the middle of an empty plan."""

from PySide6.QtCore import QRectF, Qt

from purvel.app.plan.sheet import Sheet


def wrapped(sheet: Sheet, text: str, place: QRectF) -> None:
    """Words in the middle of a place, broken into lines, on a plate."""
    painter = sheet.painter
    painter.setFont(sheet.font(1.1))
    flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
    pad = sheet.pixels
    box = painter.boundingRect(place.adjusted(pad, pad, -pad, -pad), flags, text)
    painter.setPen(sheet.pen(sheet.palette.rule, 1))
    painter.setBrush(sheet.brush(sheet.palette.sheet, 0.95))
    painter.drawRoundedRect(box.adjusted(-pad, -pad * 0.7, pad, pad * 0.7), 4, 4)
    painter.setPen(sheet.pen(sheet.palette.ink))
    painter.drawText(box, flags, text)
