"""Generic hand tools, boards and screws."""

from dataclasses import dataclass
from functools import cache

from purvel.catalogue.toml import read
from purvel.shop.storage import Holding, Tool, Use


@dataclass(frozen=True, slots=True, kw_only=True)
class ToolKind:
    """A tool as it is kept [m, kg]."""

    name: str
    width: float
    height: float
    depth: float
    mass: float
    use: Use
    keeps: Holding = "hangs"


@dataclass(frozen=True, slots=True, kw_only=True)
class Board:
    """A shelf's board: modulus of elasticity [Pa], density [kg/m3], creep as a multiple of the first sag, low
    and high.
    """

    name: str
    e: float
    density: float
    creep: tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Screw:
    """A wood screw: nominal and root diameter, length [m], bending yield strength [Pa]."""

    name: str
    diameter: float
    root: float
    length: float
    yield_strength: float


@dataclass(frozen=True, slots=True, kw_only=True)
class _Tools:
    tools: dict[str, ToolKind]
    boards: dict[str, Board]
    screws: dict[str, Screw]


@cache
def _tools() -> _Tools:
    return read("tools.toml", _Tools)


def tool_kinds() -> dict[str, ToolKind]:
    """Tools by key."""
    return _tools().tools


def boards() -> dict[str, Board]:
    """Boards by key."""
    return _tools().boards


def screws() -> dict[str, Screw]:
    """Screws by key, the thinnest first."""
    return _tools().screws


def make_tool(kind: str, tool_id: str) -> Tool:
    """A tool of this kind without a home. Raises KeyError for a kind that is not there."""
    one = tool_kinds()[kind]
    return Tool(
        id=tool_id,
        kind=kind,
        name=one.name,
        width=one.width,
        height=one.height,
        depth=one.depth,
        mass=one.mass,
        use=one.use,
        keeps=one.keeps,
    )
