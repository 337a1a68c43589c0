"""Generic kinds and trade figures: TOML data with their sources, and the loader that turns them into things for a shop."""

from purvel.catalogue.ducts import Elbow, Material, Transport, duct_sizes, elbows, gate_open_loss, materials, transport
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
from purvel.catalogue.machines import Kind, kinds, make_thing

__all__ = [
    "Capture",
    "CleanerKind",
    "DustSize",
    "Elbow",
    "Kind",
    "Limit",
    "Material",
    "Operation",
    "Transport",
    "captures",
    "cleaners",
    "duct_sizes",
    "dust_sizes",
    "elbows",
    "filter_grades",
    "filter_states",
    "gate_open_loss",
    "kinds",
    "limits",
    "make_thing",
    "materials",
    "operations",
    "transport",
]
