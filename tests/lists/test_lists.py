"""Lists and the calendar, out and in again."""

from __future__ import annotations

import csv
import io
from dataclasses import replace
from datetime import date, timedelta
from pathlib import Path

import pytest
from icalendar import Calendar

from purvel.demo import demo_bytes
from purvel.files import loads
from purvel.lists import (
    LISTS,
    ListError,
    buying_csv,
    calendar_ics,
    cut_list_csv,
    cuts_csv,
    take_in,
    tools_csv,
)
from purvel.shop import Shop
from purvel.shop.edits import put
from purvel.shop.faults import faults
from purvel.shop.money import Budget, Item
from purvel.shop.storage import Storage, Tool, WallUnit
from purvel.shop.upkeep import CutList, CutPart, CutStock, Duty, Upkeep
from tests.told import differences

ROOT = Path(__file__).parents[2]
GARAGE = loads(demo_bytes("garage-mended")).shop


def rows(text: str) -> list[dict[str, str]]:
    return list(csv.DictReader(io.StringIO(text)))


@pytest.mark.parametrize("name", [name for name in LISTS if name.endswith(".csv")])
def test_every_list_of_every_shop_is_a_table(name: str) -> None:
    for shop in (GARAGE, Shop()):
        table = list(csv.reader(io.StringIO(LISTS[name](shop))))
        assert len({len(row) for row in table}) == 1
        assert (len(table) > 1) == (shop is GARAGE)


@pytest.mark.parametrize("name", ["garage", "garage-mended", "spare-room"])
def test_the_lists_say_what_they_said_when_they_were_read_last(
    name: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """`tools/tell_demos.py` writes the texts."""
    monkeypatch.syspath_prepend(ROOT / "tools")
    from tell_demos import TOLD, lists_of

    told = (TOLD / f"{name}-lists.txt").read_text("utf-8")
    assert differences(told, lists_of(loads(demo_bytes(name)).shop), within=2e-4) == []


def test_tools_come_back_as_they_went() -> None:
    without = replace(GARAGE, storage=replace(GARAGE.storage, tools=()))
    back, said = take_in(without, tools_csv(GARAGE).encode())
    assert said == f"Took in tools: {len(GARAGE.storage.tools)} new, 0 changed."
    assert {replace(tool, id="") for tool in back.storage.tools} == {
        replace(tool, id="") for tool in GARAGE.storage.tools
    }
    assert faults(back) == []
    again, said = take_in(GARAGE, tools_csv(GARAGE).encode())
    assert again == GARAGE and "0 new" in said


def test_what_is_to_be_bought_comes_back_as_it_went() -> None:
    without = replace(GARAGE, budget=replace(GARAGE.budget, items=()))
    back, said = take_in(without, buying_csv(GARAGE).encode())

    def bare(item: Item) -> Item:
        return replace(item, id="", thing=None, needs=())

    assert [bare(one) for one in back.budget.items] == [bare(one) for one in GARAGE.budget.items]
    assert "Passed over: month, left then." in said


def test_parts_to_cut_come_back_as_they_went() -> None:
    cuts = replace(GARAGE.upkeep.cuts, parts=())
    without = replace(GARAGE, upkeep=replace(GARAGE.upkeep, cuts=cuts))
    back, _ = take_in(without, cut_list_csv(GARAGE).encode())
    assert [replace(part, id="") for part in back.upkeep.cuts.parts] == [
        replace(part, id="") for part in GARAGE.upkeep.cuts.parts
    ]


def test_other_delimiters_units_and_fractions_are_read() -> None:
    text = "Tool;Width (in);Height in;mass lb;used\nShop brush;2 1/2;10;0,5;Daily\nLong ruler;1,5 cm;3 ft;1;rarely\n"
    back, _ = take_in(Shop(), text.encode())
    brush, ruler = back.storage.tools
    assert (brush.width, brush.height, brush.use) == (pytest.approx(0.0635), pytest.approx(0.254), "daily")
    assert brush.mass == pytest.approx(0.5 * 0.45359237)
    assert (ruler.width, ruler.height) == (pytest.approx(0.015), pytest.approx(0.9144))


def test_a_known_tool_brings_its_size_and_a_bare_number_is_in_the_shops_units() -> None:
    back, _ = take_in(Shop(units="metric"), b"tool,width\nMallet,90\n")
    (mallet,) = back.storage.tools
    assert mallet.kind == "mallet" and mallet.width == pytest.approx(0.09) and mallet.mass > 0.3
    inches, _ = take_in(Shop(units="imperial"), b"tool,width\nMallet,3 1/2\n")
    assert inches.storage.tools[0].width == pytest.approx(0.0889)


def test_a_home_is_found_by_its_name() -> None:
    unit = WallUnit(id="c1", kind="cleat", name="Over the bench", wall="A")
    shop = Shop(storage=Storage(units=(unit,)))
    back, _ = take_in(shop, b"tool,home,along mm\nMallet,Over the bench,250\n")
    assert (back.storage.tools[0].home, back.storage.tools[0].along) == ("c1", 0.25)
    with pytest.raises(ListError, match=r"Row 2, home: there is no “Elsewhere”"):
        take_in(shop, b"tool,home\nMallet,Elsewhere\n")


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "nothing under it"),
        (b"tool,width\n", "nothing under it"),
        (b"tool\x00,width\nMallet,1\n", "no text file"),
        (b"fruit,colour\napple,red\n", "first heading"),
        (b"tool,width\nMallet,wide\n", "Row 2, width: “wide” is not a length"),
        (b"tool,width\nMallet,-3\n", "negative"),
        (b"tool,mass kg\nMallet,heavy\n", "Row 2, mass: “heavy” is not a number"),
        (b"tool,mass kg\nMallet,9000\n", "Row 2 cannot be so"),
        (b"tool,width mm\nMallet,0\n", "Row 2 cannot be so"),
        (b"tool,used\nMallet,hourly\n", "“hourly” is none of daily, weekly, rarely"),
        (b"tool,width\n,3\n", "Row 2 has no name"),
        (b"item,low\nSaw,a lot\n", "“a lot” is no number"),
        (b"item,low\nSaw,nan\n", "Row 2 cannot be so"),
        (b"item,paid,paid on\nSaw,3,last week\n", "Row 2 cannot be so"),
        (b"part,pieces\nSide,2.5\n", "“2.5” is no whole number"),
        (b"part,pieces\nSide,0\n", "Row 2 cannot be so"),
        (b"tool\n" + b"x\n" * 6000, "more than 5000 rows"),
        (b"tool\n" + b"".join(b"t%d\n" % i for i in range(1200)), "hold too much"),
        (b"tool," + b"x" * 2**20, "larger than 1 MB"),
        (b"tool,width mm\nMallet,1e999\n", "Row 2, width"),
    ],
)
def test_what_cannot_be_taken_in_says_where_and_why(data: bytes, says: str) -> None:
    with pytest.raises(ListError) as caught:
        take_in(Shop(), data)
    assert says in str(caught.value) and "\n" not in str(caught.value)


def test_what_a_spreadsheet_would_run_is_made_harmless_and_comes_back() -> None:
    names = ("=1+1", "+cmd", "@x", "-a", "\ttab", "plain")
    shop = Shop(storage=Storage(tools=tuple(Tool(id=f"t{i}", name=name) for i, name in enumerate(names))))
    text = tools_csv(shop)
    assert [row["tool"] for row in rows(text)] == ["'=1+1", "'+cmd", "'@x", "'-a", "'\ttab", "plain"]
    back, _ = take_in(Shop(), text.encode())
    assert [tool.name for tool in back.storage.tools] == ["=1+1", "+cmd", "@x", "-a", "tab", "plain"]


def test_the_cuts_lie_on_their_stock_and_are_all_there() -> None:
    stock = (
        CutStock(id="sheet", name="Sheet", length=2.0, width=1.0),
        CutStock(id="stick", name="Stick", kind="stick", length=2.0, width=0.05, thickness=0.02),
    )
    parts = (
        CutPart(id="a", name="Side", length=0.9, width=0.45, count=5),
        CutPart(id="b", name="Rail", length=0.6, width=0.05, thickness=0.02, count=7),
    )
    table = rows(cuts_csv(Shop(upkeep=Upkeep(cuts=CutList(parts=parts, stock=stock)))))
    assert (
        sum(row["part"] == "Side" for row in table) == 5 and sum(row["part"] == "Rail" for row in table) == 7
    )
    for row in table:
        x, y, length, width = (float(row[key]) for key in ("x mm", "y mm", "length mm", "width mm"))
        most = (2000.01, 1000.01) if row["stock"] == "Sheet" else (2000.01, 50.01)
        assert x + length <= most[0] and y + width <= most[1]
    first = [row for row in table if row["stock"] == "Stick" and row["number"] == "1"]
    assert [float(row["x mm"]) for row in first] == [0.0, 603.2, 1206.4]  # a kerf of 3.2 mm between


def test_buying_says_when_there_is_money() -> None:
    """By pocket calculator: 100 now and 50 a month: 300 is there after four months, then nothing is left."""
    items = (Item(id="a", name="Saw", low=250, high=350), Item(id="b", name="Dream", low=9e6, high=9e6))
    (saw, dream) = rows(buying_csv(Shop(budget=Budget(start=100, monthly=50, items=items))))
    assert (saw["month"], saw["left then"]) == ("4.0", "0.00")
    assert float(dream["month"]) > 1000
    (never, _) = rows(buying_csv(Shop(budget=Budget(start=100, items=items))))
    assert (never["month"], never["left then"]) == ("", "")


def test_the_calendar_has_each_duty_on_its_day() -> None:
    today = date.today()
    duties = (
        Duty(
            id="d1",
            name="Oil, all over; twice",
            every_days=30,
            done_on=(today - timedelta(days=10)).isoformat(),
        ),
        Duty(id="d2", name="Late", every_days=5, done_on="2020-01-01"),
        Duty(id="d3", name="By use", every_hours=20),
    )
    text = calendar_ics(Shop(upkeep=Upkeep(duties=duties)))
    assert "\r\n" in text and max(map(len, text.encode().split(b"\r\n"))) <= 75
    events = {str(one["summary"]): one for one in Calendar.from_ical(text).walk("VEVENT")}
    assert set(events) == {"Oil, all over; twice", "Late"}
    assert events["Oil, all over; twice"]["dtstart"].dt == today + timedelta(days=20)
    assert events["Late"]["dtstart"].dt == today and events["Late"]["dtend"].dt == today + timedelta(days=1)
    assert events["Late"]["rrule"]["interval"] == [5]
    assert str(events["Late"]["uid"]) == "d2@purvel"
    assert Calendar.from_ical(calendar_ics(Shop())).walk("VEVENT") == []


def test_nothing_of_a_list_is_taken_where_a_row_is_bad() -> None:
    shop = put(Shop(), Tool(id="t1", name="Mallet"))
    with pytest.raises(ListError):
        take_in(shop, b"tool,width mm\nMallet,120\nSaw,wide\n")
    assert shop.storage.tools == (Tool(id="t1", name="Mallet"),)
