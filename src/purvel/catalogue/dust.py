"""Dust: size classes, what operations throw off, what hoods catch, cleaners and limits."""

from dataclasses import dataclass, replace
from functools import cache

from purvel.catalogue.toml import read
from purvel.shop import Cleaner, Filter, Source


@dataclass(frozen=True, slots=True)
class DustSize:
    """One size class: bounds and representative aerodynamic diameter [um], mass share of what is thrown off,
    least loss to surfaces [1/h].
    """

    name: str
    low: float
    high: float
    diameter: float
    share: float
    settling: float


@dataclass(frozen=True, slots=True)
class Operation:
    """An operation: inhalable dust thrown off while cutting with nothing collected [mg/min], the share of its
    minutes in which it really cuts, and the hoods that its machine can have, the poorest first; the wood that
    it takes off while it cuts [g/min], low and high, and as which waste that falls.
    """

    name: str
    emission: float
    cutting: float
    hoods: tuple[str, ...]
    wood: tuple[float, float] = (0.0, 0.0)
    waste: str = "sawdust"

    @property
    def band(self) -> tuple[float, float, float]:
        """Low, central, high: a fifth to five times (low confidence)."""
        return (self.emission / 5.0, self.emission, self.emission * 5.0)


@dataclass(frozen=True, slots=True)
class Capture:
    """What a hood catches of the inhalable dust: low, central, high [-]; how many ports of its machine have
    to be on a duct for it, and whether that has to lead to a vac.
    """

    name: str
    share: tuple[float, float, float]
    ports: int = 0
    vac: bool = False
    source: str = "trade practice, low confidence"


@dataclass(frozen=True, slots=True)
class Wood:
    """A kind of stock: how many times the dust of solid wood it throws off, and what its dust and vapours are
    known for, with the source.
    """

    name: str
    times: float
    harms: str = ""
    vapours: bool = False
    source: str = ""


@dataclass(frozen=True, slots=True)
class Respirator:
    """A kind of respirator: assigned protection factors in the United States and in Europe, whether it seals
    on the face, and a remark.
    """

    name: str
    us: float
    eu: float
    tight: bool
    note: str


@dataclass(frozen=True, slots=True)
class CleanerKind:
    """A kind of room air cleaner; flow in m3/h as they are labelled."""

    name: str
    flow_m3h: float
    efficiency: tuple[float, float, float, float]
    mixing: float

    def cleaner(self) -> Cleaner:
        """The figures for a thing in a shop, in SI."""
        return Cleaner(flow=self.flow_m3h / 3600.0, efficiency=self.efficiency, mixing=self.mixing)


@dataclass(frozen=True, slots=True)
class Fan:
    """A fan for a cleaner: flow without pressure [m3/s], pressure without flow [Pa], its width [m]."""

    name: str
    free_flow: float
    shut_off: float
    width: float


@dataclass(frozen=True, slots=True)
class Panel:
    """A filter panel: its grade, face area [m2], resistance [Pa s/m] by state."""

    name: str
    grade: str
    area: float
    resistance: dict[str, float]


@dataclass(frozen=True, slots=True)
class Limit:
    """An 8 h limit for inhalable wood dust [mg/m3]."""

    name: str
    short: str
    value: float
    year: str
    note: str
    fraction: str = "inhalable"


@dataclass(frozen=True, slots=True)
class FilterMedium:
    """What a filter is made of, and its resistance [Pa s/m] by state."""

    name: str
    states: dict[str, float]


@dataclass(frozen=True, slots=True)
class _DustData:
    sizes: tuple[DustSize, ...]
    operations: dict[str, Operation]
    captures: dict[str, Capture]
    woods: dict[str, Wood]
    edges: dict[str, float]
    respirators: dict[str, Respirator]
    cleaners: dict[str, CleanerKind]
    fans: dict[str, Fan]
    panels: dict[str, Panel]
    limits: dict[str, Limit]
    filter_grades: dict[str, tuple[float, float, float, float]]
    filter_media: dict[str, FilterMedium]


@cache
def _data() -> _DustData:
    return read("dust.toml", _DustData)


def dust_sizes() -> tuple[DustSize, ...]:
    """The size classes, fine to coarse."""
    return _data().sizes


def operations() -> dict[str, Operation]:
    """Operations by key."""
    return _data().operations


def captures() -> dict[str, Capture]:
    """Hoods by key."""
    return _data().captures


def woods() -> dict[str, Wood]:
    """Kinds of stock by key."""
    return _data().woods


def respirators() -> dict[str, Respirator]:
    """Respirators by key, the least first."""
    return _data().respirators


def edges() -> dict[str, float]:
    """How many times as much dust an edge throws off, by how sharp it is."""
    return _data().edges


def cleaners() -> dict[str, CleanerKind]:
    """Cleaners by key."""
    return _data().cleaners


def fans() -> dict[str, Fan]:
    """Fans for cleaners by key."""
    return _data().fans


def panels() -> dict[str, Panel]:
    """Filter panels by key."""
    return _data().panels


def limits() -> dict[str, Limit]:
    """Limits by key."""
    return _data().limits


def filter_grades() -> dict[str, tuple[float, float, float, float]]:
    """Single-pass efficiency in the four size classes [-] by grade."""
    return _data().filter_grades


def filter_media() -> dict[str, FilterMedium]:
    """Filter media by key."""
    return _data().filter_media


def filter_states(medium: str = "") -> dict[str, float]:
    """Resistance of a filter [Pa s/m] by its state: of a medium, or of one that is not known."""
    return filter_media().get(medium, filter_media()["unknown"]).states


def with_fine_filter(source: Source) -> Source:
    """A source with a HEPA filter in use behind its own: as large as that, or as 1 m2 where it has none."""
    area = source.filter.area if source.filter is not None else 1.0
    fine = Filter(area=area, resistance=filter_states("glass")["seasoned"], medium="glass")
    return replace(source, behind=fine, efficiency=filter_grades()["HEPA"])
