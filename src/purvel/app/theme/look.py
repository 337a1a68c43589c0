"""Colours and the style sheet made from them.

Text contrast is at least 4.5:1, lines that carry meaning at least 3:1 (tested).
"""

from dataclasses import dataclass
from importlib.resources import files

from purvel.app.application import FAMILY
from purvel.review import Grade


@dataclass(frozen=True, slots=True)
class Look:
    """One theme. Colours as #rrggbb."""

    name: str
    desk: str
    paper: str
    sheet: str
    rule: str
    ink: str
    pencil: str
    wall: str
    wood: str
    wood_edge: str
    storage: str
    metal: str
    accent: str
    accent_text: str
    good: str
    watch: str
    mend: str
    stop: str
    air_fine: str
    air_mid: str
    air_coarse: str

    def grade(self, grade: Grade) -> str:
        """The colour of a grade; its word and shape go with it."""
        return {Grade.STOP: self.stop, Grade.MEND: self.mend, Grade.WATCH: self.watch, Grade.GOOD: self.good}[
            grade
        ]


LIGHT = Look(
    name="light",
    desk="#e9e2d3",
    paper="#f8f4ea",
    sheet="#fffdf7",
    rule="#d8cfbb",
    ink="#262421",
    pencil="#625d53",
    wall="#3a3733",
    wood="#ecd6ab",
    wood_edge="#7d5a26",
    storage="#dccbb0",
    metal="#cfd3d2",
    accent="#9a3d12",
    accent_text="#ffffff",
    good="#1f6b4f",
    watch="#5a5f1f",
    mend="#995200",
    stop="#a3161b",
    air_fine="#4b4a8f",
    air_mid="#2c6f86",
    air_coarse="#8a6a3b",
)
DARK = Look(
    name="dark",
    desk="#191816",
    paper="#23211e",
    sheet="#2b2925",
    rule="#46423b",
    ink="#f1ece1",
    pencil="#b8b0a1",
    wall="#d8d0c0",
    wood="#5d4a2c",
    wood_edge="#d9b77c",
    storage="#4a4234",
    metal="#4a5050",
    accent="#f0935f",
    accent_text="#1d1206",
    good="#6fd0a5",
    watch="#cbd06a",
    mend="#f2ab4c",
    stop="#ff8b83",
    air_fine="#a9a8f0",
    air_mid="#7cc7df",
    air_coarse="#d9b77c",
)


def style_sheet(look: Look, pixels: int) -> str:
    """The style sheet for a theme at a text size [px]."""
    small = max(13, round(pixels * 0.87))
    drawings = files("purvel.app.resources").joinpath("icons")
    pad = round(pixels * 0.35)
    return f"""
    * {{ font-family: "{FAMILY}"; font-size: {pixels}px; color: {look.ink}; }}
    QMainWindow, QDialog, #desk {{ background: {look.desk}; }}
    QToolTip {{ background: {look.sheet}; color: {look.ink}; border: 1px solid {look.pencil}; padding: {pad}px; }}
    #header {{ background: {look.desk}; border-bottom: 2px solid {look.wall}; }}
    #rail {{ background: {look.desk}; }}
    #card, #tray {{ background: {look.sheet}; border: 1px solid {look.rule}; border-radius: 3px; }}
    #notice {{ background: {look.sheet}; border: 2px solid {look.accent}; border-left-width: 7px; }}
    #strip {{ background: {look.desk}; }}
    QScrollArea, QScrollArea > QWidget > QWidget {{ background: transparent; border: none; }}
    QLabel#small {{ font-size: {small}px; color: {look.pencil}; }}
    QLabel#caption {{ font-size: {small}px; font-weight: 700; color: {look.pencil}; }}
    QLabel#refusal {{ font-size: {small}px; color: {look.stop}; font-weight: 600; }}
    QLabel#overlay {{ font-size: {small}px; color: {look.stop}; font-weight: 600; background: {look.sheet}; border: 1px solid {look.stop}; padding: {pad}px; }}
    QLabel#heading {{ font-weight: 700; }}
    QLabel#tool {{ color: {look.accent}; font-weight: 600; }}
    QPushButton, QToolButton {{ background: {look.sheet}; border: 1px solid {look.pencil}; border-radius: 3px; padding: {pad}px {pad * 2}px; }}
    QPushButton:hover, QToolButton:hover {{ border-color: {look.accent}; }}
    QPushButton:focus, QToolButton:focus, QLineEdit:focus, QComboBox:focus, QCheckBox:focus, QListWidget:focus, QTableWidget:focus
        {{ border: 2px solid {look.accent}; }}
    QPushButton:checked, QToolButton:checked {{ background: {look.accent}; color: {look.accent_text}; border-color: {look.accent}; }}
    QPushButton:disabled, QToolButton:disabled {{ color: {look.pencil}; border-color: {look.rule}; }}
    QPushButton#flat {{ border: none; background: transparent; text-align: left; padding: {pad}px; }}
    QPushButton#flat:focus {{ border: 2px solid {look.accent}; }}
    QToolButton#stage {{ padding: {pad * 1.4:.0f}px {pad}px; }}
    QPushButton#work {{ text-align: left; }}
    QPushButton#move QLabel {{ font-weight: 600; }}
    QToolButton::menu-indicator {{ image: none; }}
    QLineEdit, QComboBox {{ background: {look.sheet}; border: 1px solid {look.pencil}; border-radius: 2px; padding: {pad}px;
        selection-background-color: {look.accent}; selection-color: {look.accent_text}; }}
    QComboBox {{ padding-right: {round(pixels * 1.5)}px; }}
    QComboBox::drop-down {{ border: none; width: {round(pixels * 1.5)}px; }}
    QComboBox::down-arrow {{ image: url({drawings.joinpath(f"chevron-{look.name}.svg")}); width: {round(pixels * 0.8)}px; height: {round(pixels * 0.8)}px; }}
    QLineEdit[refused="true"] {{ border: 2px solid {look.stop}; }}
    QComboBox QAbstractItemView {{ background: {look.sheet}; border: 1px solid {look.pencil}; selection-background-color: {look.accent};
        selection-color: {look.accent_text}; }}
    QMenu {{ background: {look.sheet}; border: 1px solid {look.pencil}; padding: {pad}px; }}
    QMenu::item {{ padding: {pad}px {pad * 5}px {pad}px {pad * 3}px; }}
    QMenu::item:selected {{ background: {look.accent}; color: {look.accent_text}; }}
    QMenu::item:disabled {{ color: {look.pencil}; }}
    QMenu::separator {{ height: 1px; background: {look.rule}; margin: {pad}px 0; }}
    QListWidget, QTableWidget {{ background: {look.sheet}; border: 1px solid {look.rule}; }}
    QListWidget::item {{ padding: {pad}px; }}
    QListWidget::item:selected, QTableWidget::item:selected {{ background: {look.accent}; color: {look.accent_text}; }}
    QCheckBox {{ spacing: {pad}px; padding: 2px; border: 2px solid transparent; }}
    QCheckBox::indicator {{ width: {pixels}px; height: {pixels}px; border: 2px solid {look.pencil}; background: {look.sheet}; }}
    QCheckBox::indicator:checked {{ background: {look.accent}; border-color: {look.accent};
        image: url({drawings.joinpath(f"tick-{look.name}.svg")}); }}
    QSplitter::handle {{ background: {look.rule}; }}
    QScrollBar:vertical {{ background: {look.desk}; width: 12px; }}
    QScrollBar:horizontal {{ background: {look.desk}; height: 12px; }}
    QScrollBar::handle {{ background: {look.pencil}; border-radius: 5px; min-height: 30px; min-width: 30px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    """
