"""Charts that follow a hand: only what changed is drawn again."""

import pyqtgraph as pg
import pytest

from purvel.airflow.network import NetworkResult
from purvel.app.stages.ducts.curve_chart import CurveChart
from purvel.app.theme import Theme
from purvel.app.widgets.charts import ChartItems, make_plot
from purvel.quantities import Units
from purvel.shop.edits import move_thing
from tests.app.conftest import Bench


def test_a_line_is_drawn_again_only_where_it_changed(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    plot, drawn, own = make_plot(), list[object](), pg.PlotDataItem.setData
    bench.bot.addWidget(plot)
    items = ChartItems(plot)

    def counted(item: pg.PlotDataItem, *data: object, **look: object) -> None:
        if data:  # making one sets nothing yet
            drawn.append((item.name(), *data))
        own(item, *data, **look)

    monkeypatch.setattr(pg.PlotDataItem, "setData", counted)

    def draw(theme: Theme, *ends: float, width: int = 1) -> int:
        drawn.clear()
        items.begin(theme, "flow", "pressure")
        for name, end in zip("abc", ends):
            items.line(name, [0.0, 1.0], [0.0, end], pen=pg.mkPen("#333333", width=width))
        items.end()
        shown = {item.name(): item.getData()[1][-1] for item in plot.listDataItems()}
        assert shown == dict(zip("abc", ends))
        return len(drawn)

    theme = bench.window.theme
    assert draw(theme, 1.0, 2.0) == 2
    assert draw(theme, 1.0, 2.0) == 0
    assert draw(theme, 1.0, 2.5) == 1
    assert draw(theme, 1.0, 2.5, width=2) == 2
    assert draw(theme, 1.0, width=2) == 0
    assert draw(theme, 1.0, 2.5, width=2) == 1  # it was taken away meanwhile
    theme.switch_paper()
    assert draw(theme, 1.0, 2.5, width=2) == 2


def test_the_curve_is_drawn_once_for_what_it_shows(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    """Entering the stage shows and sizes it several times; a name finds its place anew in another width."""
    drawn, own = list[str](), CurveChart._draw_curve

    def counted(chart: CurveChart, network: NetworkResult, units: Units) -> tuple[float, float]:
        drawn.append(chart.called)
        return own(chart, network, units)

    def anew() -> int:
        bench.settle()
        count = len(drawn)
        drawn.clear()
        return count

    bench.demo("garage", "ducts")
    monkeypatch.setattr(CurveChart, "_draw_curve", counted)
    chart = bench.window.stages["ducts"].instrument.chart
    bench.window.refresh()
    assert chart.isVisible() and anew() == 0
    chart.resize(chart.width(), chart.height() + 20)
    assert anew() == 0
    chart.resize(chart.width() - 40, chart.height())
    assert anew() == 1
    bench.window.switch_units()
    assert anew() >= 1  # grey while the review is under way
    bench.stage("place")
    bench.stage("ducts")
    assert anew() == 0  # what it shows is shown already
    bench.stage("place")
    moved = bench.workspace.shop.thing("planer")
    assert moved is not None
    bench.workspace.apply(lambda shop: move_thing(shop, "planer", moved.x + 0.1, moved.y), "Move the planer")
    assert anew() == 0  # nobody sees it
    bench.stage("ducts")
    assert anew() >= 1
