"""Generic kinds and trade figures: TOML data with their sources, and the loader that turns them into things
for a shop.
"""

from purvel.catalogue.ducts import (
    Elbow,
    Material,
    Transport,
    duct_sizes,
    elbows,
    gate_open_loss,
    materials,
    transport,
)
from purvel.catalogue.dust import (
    Capture,
    CleanerKind,
    DustSize,
    Limit,
    Operation,
    captures,
    cleaners,
    dust_sizes,
    filter_grades,
    filter_states,
    limits,
    operations,
)
from purvel.catalogue.even import evenly
from purvel.catalogue.machines import LOUD, Kind, kinds, make_thing, uses
from purvel.catalogue.room import (
    FixtureSizes,
    OpeningSizes,
    fixture_kinds,
    make_fixture,
    make_opening,
    opening_kinds,
)
from purvel.catalogue.trade import (
    ReadyJob,
    StandIn,
    TradeOperation,
    able,
    other_ways,
    ready_jobs,
    trade_operations,
)

__all__ = [
    "LOUD",
    "Capture",
    "CleanerKind",
    "DustSize",
    "Elbow",
    "FixtureSizes",
    "Kind",
    "Limit",
    "Material",
    "OpeningSizes",
    "Operation",
    "Transport",
    "TradeOperation",
    "ReadyJob",
    "StandIn",
    "able",
    "ready_jobs",
    "trade_operations",
    "captures",
    "cleaners",
    "duct_sizes",
    "dust_sizes",
    "elbows",
    "evenly",
    "filter_grades",
    "filter_states",
    "fixture_kinds",
    "gate_open_loss",
    "kinds",
    "limits",
    "make_fixture",
    "make_opening",
    "make_thing",
    "materials",
    "opening_kinds",
    "operations",
    "other_ways",
    "transport",
    "uses",
]
