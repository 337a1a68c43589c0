"""Ducts as drawn: runs with height, size and material, their gates, and the sets of gates that people open
together.
"""

from dataclasses import dataclass
from typing import Annotated, Literal

from msgspec import Meta

from purvel.shop.fields import Coefficient, Coordinate, Diameter, Id, Length, Name, Share, Size
from purvel.shop.money import Day, Money


@dataclass(frozen=True, slots=True, kw_only=True)
class Vertex:
    """A corner of a run's centre line."""

    x: Coordinate
    y: Coordinate
    z: Length


@dataclass(frozen=True, slots=True, kw_only=True)
class Join:
    """Where a run leaves another: `at` metres along that run from the fan's end, through a branch fitting of
    `angle` degrees.

    Without `at` it carries on in line from that run's far end.
    """

    run: Id
    at: Length | None = None
    angle: Annotated[float, Meta(ge=15, le=90, description="[deg]")] = 45.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PortRef:
    """A machine's port."""

    thing: Id
    port: Id


@dataclass(frozen=True, slots=True, kw_only=True)
class Gate:
    """A blast gate `at` metres along its run from the fan's end. Shut it gapes by `gap` all round its duct, 0
    where it seals, None: as gates here do.
    """

    id: Id
    name: Name = ""
    at: Length = 0.3
    gap: Annotated[float, Meta(ge=0, le=0.005, description="[m]")] | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Run:
    """One run drawn from the fan's side towards the hood: it starts at a source's inlet or at another run,
    and ends at a port or a cap.

    `points` are the corners between; where the run starts at a source or ends at a port, that end follows the
    machine. `slack` is the share by which a hose is shorter as hung than fully stretched. A run that starts
    at a source and joins another as well brings that source in as a second one: its far end is where it
    joins. `loss` is what else is in it, on its velocity pressure; `roughness` the wall's where it is known.
    `inline` are fittings of the catalogue that sit in it; a hose may `sag` so far between its hangers.
    """

    id: Id
    name: Name = ""
    points: Annotated[tuple[Vertex, ...], Meta(max_length=200)] = ()
    diameter: Diameter = 0.15
    material: Id = "spiral"
    elbow: Id = "smooth-1.5"
    slack: Share = 0.0
    sag: Annotated[float, Meta(ge=0, le=1, description="[m]")] = 0.0
    loss: Coefficient = 0.0
    inline: Annotated[tuple[Id, ...], Meta(max_length=8)] = ()
    roughness: Annotated[float, Meta(ge=0, le=0.01, description="[m]")] | None = None
    source: Id | None = None
    joins: Join | None = None
    port: PortRef | None = None
    gates: Annotated[tuple[Gate, ...], Meta(max_length=8)] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class PartOpen:
    """A gate that is drawn out in part only: how far, as a share of the duct's diameter."""

    gate: Id
    share: Annotated[float, Meta(ge=0.02, le=0.98, description="[-]")]


@dataclass(frozen=True, slots=True, kw_only=True)
class GateSet:
    """A choice of gates open together, as people use it; all others are shut. Of those that are open `part`
    are not all the way out. `instead_of` is a port that is not drawn at by itself but with this choice.
    """

    id: Id
    name: Name = ""
    open: Annotated[tuple[Id, ...], Meta(max_length=64)] = ()
    part: Annotated[tuple[PartOpen, ...], Meta(max_length=64)] = ()
    instead_of: PortRef | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Offcut:
    """A length of pipe that is there already."""

    material: Id
    diameter: Diameter
    length: Length


@dataclass(frozen=True, slots=True, kw_only=True)
class Switched:
    """How a machine's dust collection is switched: by itself when the machine starts, by a remote, or by
    hand; how long after the machine the source starts, so that both do not start at once, and how long it
    runs on.
    """

    thing: Id
    how: Literal["by itself", "remote", "by hand"] = "by itself"
    delay: Annotated[float, Meta(ge=0, le=60, description="[s]")] = 1.0
    run_on: Annotated[float, Meta(ge=0, le=600, description="[s]")] = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Ran:
    """Hours that a machine or source ran on a day, as a switch box counted them."""

    thing: Id
    day: Day
    hours: Annotated[float, Meta(ge=0, le=24, description="[h]")]


EndForm = Literal["spigot", "socket", "male thread", "female thread"]
"""What an end of hose, pipe or an adapter is: one that goes in, or one that goes over."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AdapterEnd:
    """An end: a spigot by its outer, a socket by its inner diameter, which may be a range; or a thread by its
    name.
    """

    form: EndForm = "spigot"
    least: Annotated[float, Meta(ge=0, le=1, description="[m]")] = 0.0
    most: Annotated[float, Meta(ge=0, le=1, description="[m]")] = 0.0
    thread: Name = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnAdapter:
    """An adapter that is in the drawer, was printed or turned."""

    id: Id
    name: Name = ""
    one: AdapterEnd = AdapterEnd()
    other: AdapterEnd = AdapterEnd()


HoodShape = Literal["plain", "flanged", "on a surface", "slot", "flanged slot", "booth", "downdraught"]
"""What a hood's opening is like to the air."""


@dataclass(frozen=True, slots=True, kw_only=True)
class HoodPlan:
    """A hood that is designed: the idea that it began from, its opening (for a slot its length and width),
    how deep its box is, how far off the dust is made, its round outlet, and the machine that it is for.
    """

    id: Id
    name: Name = ""
    idea: Id = "shroud"
    shape: HoodShape = "booth"
    width: Size = 0.3
    height: Size = 0.2
    depth: Size = 0.2
    distance: Length = 0.1
    outlet: Diameter = 0.1
    thing: Id | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Quoted:
    """A line of a supplier's quote: who, what by the words of the bill, its inside diameter (0: none), and
    the price of each in the budget's currency; None where it is not offered.
    """

    id: Id
    name: Name = ""
    what: Name = ""
    size: Annotated[float, Meta(ge=0, le=2, description="[m]")] = 0.0
    each: Money | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Ducts:
    """The duct system. `target` is what each hood is asked for: to clear the chips, or to catch the fine dust
    too.

    `gate_gap` is how wide a shut gate gapes all round its duct, 0 where it seals; `joint_leak` the opening
    that each joint leaves, 0 where all are taped. Pipe is bought in sticks of one length and cut with a kerf;
    `offcuts` are used up first. `adapters` are
    those of one's own, `hoods` those that are designed, `quotes` what suppliers ask for it.
    """

    runs: Annotated[tuple[Run, ...], Meta(max_length=300)] = ()
    gate_sets: Annotated[tuple[GateSet, ...], Meta(max_length=400)] = ()
    target: Literal["chips", "fine"] = "fine"
    gate_gap: Annotated[float, Meta(ge=0, le=0.005, description="[m]")] = 2.0e-4
    joint_leak: Annotated[float, Meta(ge=0, le=0.001, description="[m2]")] = 0.0
    stick: Annotated[float, Meta(ge=0.3, le=12, description="[m]")] = 3.048
    kerf: Annotated[float, Meta(ge=0, le=0.02, description="[m]")] = 0.0032
    offcuts: Annotated[tuple[Offcut, ...], Meta(max_length=200)] = ()
    switched: Annotated[tuple[Switched, ...], Meta(max_length=200)] = ()
    adapters: Annotated[tuple[OwnAdapter, ...], Meta(max_length=200)] = ()
    hoods: Annotated[tuple[HoodPlan, ...], Meta(max_length=60)] = ()
    quotes: Annotated[tuple[Quoted, ...], Meta(max_length=2000)] = ()
    ran: Annotated[tuple[Ran, ...], Meta(max_length=20_000)] = ()

    @property
    def connected_ports(self) -> set[tuple[str, str]]:
        """Ports that a run leads to: ids of thing and port."""
        return {(run.port.thing, run.port.port) for run in self.runs if run.port}
