"""The page of figures says what the code goes by, and on what each figure rests."""

from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


@pytest.fixture
def listed() -> dict[tuple[str, str], str]:
    """Value by module and name, from the page."""
    rows = (ROOT / "docs" / "figures.md").read_text("utf-8").splitlines()
    cells = [row.strip("| ").split(" | ") for row in rows if row.startswith("| ") and "`" in row]
    return {(room, name.strip("`")): value for room, name, value, *_ in cells}


def test_every_figure_of_the_code_is_on_the_page(monkeypatch: pytest.MonkeyPatch) -> None:
    """A figure is changed there too (`tools/list_figures.py`), or not at all."""
    monkeypatch.syspath_prepend(ROOT / "tools")
    from list_figures import LISTED, figures, page

    assert LISTED.read_text("utf-8") == page()
    assert [figure for figure in figures() if not figure.about] == []


def test_published_figures_are_as_published(listed: dict[tuple[str, str], str]) -> None:
    """In the units in which they were published."""
    inch, foot, pound, gravity = 0.0254, 0.3048, 0.45359237, 9.80665
    published = {
        ("space/clearances", "PANEL_WIDTH"): 30 * inch,
        ("space/clearances", "PANEL_DEPTH"): 36 * inch,
        ("space/clearances", "PANEL_HEIGHT"): 6.5 * foot,
        ("space/aisles", "ONE_PERSON"): 36 * inch,
        ("space/aisles", "SQUEEZE"): 24 * inch,
        ("review/room/rules", "WAY_OUT"): 28 * inch,
        ("power/circuits", "LONG"): 1.25,
        ("power/circuits", "BRANCH_DROP"): 0.03,
        ("power/circuits", "TOTAL_DROP"): 0.05,
        ("power/plates", "HP"): 550 * foot * pound * gravity,
        ("review/flow/rules", "ONE_PERSON_LIFT"): 23.0,
        ("review/keep/rules", "LIFT"): 23.0,
        ("airflow/hoods", "FINE_DUST_SPEED"): 50 * foot / 60,
        ("airflow/air", "STANDARD_DENSITY"): 0.075 * pound / foot**3,
        ("catalogue/machines", "INCH_WATER_GAUGE"): 1000 * gravity * inch,
        ("walls/shelves", "GRAVITY"): gravity,
        ("roomair/dust", "GRAVITY"): gravity,
        ("roomair/course", "SHIFT"): 8 * 60.0,
    }
    for figure, value in published.items():
        assert float(listed[figure]) == pytest.approx(value, rel=2e-3), figure
