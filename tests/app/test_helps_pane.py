"""What helps the air, in the window: read, done with one press, taken back."""

from purvel.app.widgets.tables import PlainTable
from purvel.review.air.answers import AirAnswers
from purvel.review.stage import Table
from purvel.shop.edits import change_session
from tests.app.conftest import Bench


def test_the_first_that_helps_is_done_and_taken_back(bench: Bench) -> None:
    bench.demo("garage", "air")
    day = bench.window.stages["air"].day
    day.panes.choose(3)
    bench.settle()
    pane = day.helps
    assert pane.isVisible() and pane.measures.item(0, 1).text().endswith("%")
    assert "Measure first: " in pane.text.text()
    before = bench.workspace.shop
    was = bench.window.reviews.answers().of(AirAnswers).day.courses["central"].personal_8h
    wanted = pane.found[0].breathed[1]
    pane.take.click()
    bench.settle()
    now = bench.window.reviews.answers().of(AirAnswers).day.courses["central"].personal_8h
    assert abs(now - wanted) < 1e-9 * was and now < was
    bench.workspace.undo()
    assert bench.workspace.shop == before


def test_without_work_it_says_what_to_do(bench: Bench) -> None:
    bench.demo("garage")
    bench.workspace.apply(lambda shop: change_session(shop, work=()), "No work")
    bench.stage("air")
    day = bench.window.stages["air"].day
    day.panes.choose(3)
    bench.settle()
    assert "Add work" in day.helps.text.text() and not day.helps.measures.isVisible()


def test_units_stay_whole_in_the_cells_of_tables(bench: Bench) -> None:
    table = PlainTable("Dust", ("Where", "Dust"))
    bench.bot.addWidget(table)
    table.show_table(Table("Dust", ("Where", "Dust"), [("shop", "0.4 mg/m³")]))
    item = table.item(0, 1)
    assert item.text() == "0.4 mg/m³"
    shown = table.itemDelegate().displayText(item.text(), table.locale())
    assert shown == "0.4 mg/\u2060m³"
