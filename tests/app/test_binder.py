"""The binder: what can be searched in it, its scale, its pages, what is marked on the floor."""

import re
import zlib
from dataclasses import replace
from datetime import date

import pytest
from PySide6.QtCore import QMarginsF, QRectF
from PySide6.QtGui import QPageLayout, QPageSize, QPdfWriter
from PySide6.QtWidgets import QApplication

from purvel.app.sheets import binder
from purvel.app.sheets.binder import binder_pdf, draw_binder
from purvel.app.sheets.drawing import SCALES, bounds_of, in_memory, pages_of
from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.lists import setout_csv
from purvel.review import Memory, Review
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.figures import Figures
from purvel.review.place.report import tables
from purvel.review.reviewing import first_review
from purvel.shop.edits import put
from tests.app.conftest import Bench

MOST_LENT = 8  # letters that are not in the typeface and lent from another


@pytest.fixture(scope="module")
def checked() -> Review:
    return first_review(loads(demo_bytes("garage")).shop, Memory())


def streams(pdf: bytes) -> list[bytes]:
    found = []
    for piece in re.findall(rb"stream\r?\n(.*?)endstream", pdf, re.DOTALL):
        try:
            found.append(zlib.decompress(piece))
        except zlib.error:
            found.append(piece)  # it is not packed
    return found


def test_figures_in_the_binder_can_be_searched(qapp: QApplication, checked: Review) -> None:
    """Every lettering of the PDF says which of its glyphs are digits, and is no glyph without a letter."""
    maps = [one for one in streams(binder_pdf(checked)) if b"beginbfchar" in one or b"beginbfrange" in one]
    assert maps
    for one in maps:
        letters = {
            int(code, 16) for row in re.findall(rb"\[(.*?)\]", one) for code in re.findall(rb"<(\w+)>", row)
        }
        assert 0 not in letters and 0xFFFD not in letters  # no glyph without a letter
        if len(letters) > MOST_LENT:
            assert {ord(digit) for digit in "0123456789"} <= letters


def test_every_page_has_its_date_and_number(
    qapp: QApplication, checked: Review, monkeypatch: pytest.MonkeyPatch
) -> None:
    feet: list[str] = []
    real = binder._document

    def note(html: str, device: object) -> object:
        if "page " in html and "align='right'" in html:
            feet.append(html)
        return real(html, device)

    monkeypatch.setattr(binder, "_document", note)
    pdf = binder_pdf(checked)
    count = len(re.findall(rb"/Type\s*/Page\b(?!s)", pdf))
    assert len(feet) == count > 5
    for number, foot in enumerate(feet, start=1):
        assert f"page {number} of {count}" in foot and date.today().isoformat() in foot


def test_plans_are_drawn_to_a_scale_that_a_rule_has(
    qapp: QApplication, checked: Review, monkeypatch: pytest.MonkeyPatch
) -> None:
    drawn: list[tuple[float, float]] = []
    real = binder.draw_to_scale

    def note(painter: object, one: Review, box: QRectF, pixels: int, page: object) -> str:
        scale = real(painter, one, box, pixels, page)  # type: ignore[arg-type]
        if not page.has_scale:  # type: ignore[attr-defined]
            assert scale == ""  # a chart
            return scale
        x0, y0, x1, y1 = bounds_of(one, page)  # type: ignore[arg-type]
        ratio = next(ratio for ratio, name in SCALES[one.shop.units] if name == scale)
        drawn.append(
            ((x1 - x0) * 150 / 0.0254 / ratio / box.width(), (y1 - y0) * 150 / 0.0254 / ratio / box.height())
        )
        return scale

    monkeypatch.setattr(binder, "draw_to_scale", note)
    for shop in (checked.shop, replace(checked.shop, units="metric")):
        drawn.clear()
        binder_pdf(first_review(shop, Memory()))
        assert len(drawn) == sum(page.has_scale for page in pages_of(checked))
        assert all(max(pair) <= 1.0 for pair in drawn) and max(max(pair) for pair in drawn) > 0.4


def test_no_heading_is_parted_from_what_follows_it(qapp: QApplication, checked: Review) -> None:
    for high in (700.0, 900.0, 1100.0):
        device = in_memory()
        writer = QPdfWriter(device)
        writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
        writer.setPageMargins(QMarginsF(15, 15, 15, 15), QPageLayout.Unit.Millimeter)
        writer.setResolution(150)
        words = binder._words(checked, writer, QRectF(0, 0, writer.width(), high))
        layout, block, headings = words.documentLayout(), words.begin(), 0
        while block.isValid():
            following = block.next()
            if block.blockFormat().headingLevel() > 0 and following.isValid():
                headings += 1
                own, after = layout.blockBoundingRect(block), layout.blockBoundingRect(following)
                assert int(own.top() // high) == int(after.top() // high), block.text()
            block = following
        assert headings > 8


def test_all_words_are_laid_out(qapp: QApplication, checked: Review) -> None:
    """None is left without lines, whatever is put on the next page."""
    for high in (700.0, 900.0, 1100.0, 1529.0):
        writer = QPdfWriter(in_memory())
        writer.setResolution(150)
        words = binder._words(checked, writer, QRectF(0, 0, 1061.0, high))
        end = words.documentLayout().blockBoundingRect(words.lastBlock()).bottom()
        assert end <= words.pageCount() * high
        block = words.begin()
        while block.isValid():
            assert block.layout().lineCount() > 0 or not block.text(), (high, block.text())
            block = block.next()


def test_doors_and_posts_are_in_the_set_out(checked: Review) -> None:
    table = next(one for one in tables(checked.answers, Figures("imperial")) if one.title == "Set-out")
    rows = {row[0]: row for row in table.rows}
    for fixture in checked.shop.room.fixtures:
        assert fixture.name in rows or fixture.kind == "parking bay"
    post = rows["Steel post"]
    assert (post[1] and "A: " in post[2] + post[3]) or "D: " in post[2] + post[3]
    opening = checked.shop.room.openings[0]
    say, far = Figures("imperial"), opening.offset + opening.width
    edges = next(row for row in table.rows if row[1] == "edges" and row[2].startswith(f"{opening.wall}: "))
    assert edges[2:4] == (
        f"{opening.wall}: {say.length(opening.offset)}",
        f"{opening.wall}: {say.length(far)}",
    )
    text = setout_csv(checked.shop)
    assert "Steel post," in text and ",edges," in text
    moved = put(checked.shop, replace(opening, offset=opening.offset + 0.1))
    assert setout_csv(moved) != text


def test_the_binder_goes_on_any_paged_device(qapp: QApplication, checked: Review) -> None:
    """What a printer is: a device with another resolution."""
    device = in_memory()
    writer = QPdfWriter(device)
    writer.setResolution(600)
    draw_binder(writer, checked)
    assert len(device.data()) > 50_000


def test_printing_offers_the_printer_and_the_file(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    bench.demo("spare-room")
    asked: list[list[str]] = []
    monkeypatch.setattr(
        bench.window.filing, "ask", lambda _, choices: asked.append([words for words, _ in choices])
    )
    bench.window.filing.print_binder()
    assert asked == [
        ["On a printer", "As a PDF file", "Plan in tiles to scale", "Paper cut-outs", "Patterns of hoods"]
    ]


def test_every_choice_of_gates_has_a_page(checked: Review) -> None:
    answers = checked.answers
    heads = [page.headline(answers) for page in pages_of(checked)]
    choices = [
        answers.of(DuctAnswers).choice_name(one.id) for one in answers.of(DuctAnswers).networks[0].sets
    ]
    assert [head for head in heads if head.startswith("Ducts")] == [
        f"Ducts, with gate choice “{name}”." for name in choices
    ]
    assert sum(page.is_plan for page in pages_of(checked) if page.headline(answers).startswith("Ducts")) == 1
