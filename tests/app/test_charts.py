"""Charts that follow a hand: only what changed is drawn again."""

import pyqtgraph as pg
import pytest

from purvel.app.theme import Theme
from purvel.app.widgets.charts import ChartItems, make_plot
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
