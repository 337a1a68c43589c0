"""Lists and drawings in open formats that need no window, out and in."""

from collections.abc import Callable

from purvel.lists.air import air_csv, logs_csv
from purvel.lists.calendar import calendar_ics
from purvel.lists.drawing import plan_dxf
from purvel.lists.taken_in import ListError, read_list, take_in
from purvel.lists.written import (
    bill_csv,
    buying_csv,
    cut_list_csv,
    cuts_csv,
    parts_csv,
    quote_csv,
    setout_csv,
    tools_csv,
)
from purvel.shop import Shop

LISTS: dict[str, Callable[[Shop], str]] = {
    "parts.csv": parts_csv,
    "bill.csv": bill_csv,
    "quote.csv": quote_csv,
    "setout.csv": setout_csv,
    "tools.csv": tools_csv,
    "buying.csv": buying_csv,
    "cutlist.csv": cut_list_csv,
    "cuts.csv": cuts_csv,
    "air.csv": air_csv,
    "calendar.ics": calendar_ics,
    "plan.dxf": plan_dxf,
}
"""Each by the name that asks for it: the ending, and what a CSV file's name holds."""
LOGS = "logs.csv"  # what asks for the monitors' logs, for which their files are needed

__all__ = [
    "LISTS",
    "LOGS",
    "ListError",
    "buying_csv",
    "air_csv",
    "calendar_ics",
    "cut_list_csv",
    "cuts_csv",
    "logs_csv",
    "parts_csv",
    "plan_dxf",
    "read_list",
    "setout_csv",
    "take_in",
    "tools_csv",
]
