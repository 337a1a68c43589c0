"""Proposals for a duct system: from a source's inlet to the ports, under the ceiling, clear of what is there.

Each is laid by `airflow/gathering.py` at the least cost of pipe and fittings by our own rough prices, under
its own rule of what is dear; then its sizes are searched as for any other system.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from math import dist, inf, pi, sqrt

from purvel.airflow.gathering import gathered
from purvel.airflow.parts import Part
from purvel.airflow.paths import length_of
from purvel.airflow.pipe_tree import PipePrice, Start
from purvel.airflow.segments import Layout
from purvel.airflow.sizing import HOLDS, sizings
from purvel.airflow.sources import most_suction
from purvel.catalogue import materials, transport
from purvel.catalogue.money import duct_prices
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.pipe_room import PipeRoom
from purvel.review.ducts.route_places import (
    BELOW_CEILING,
    HANDLING,
    Drop,
    Frame,
    Riser,
    drops,
    lattice,
    node_at,
    risers,
    start,
)
from purvel.review.ducts.route_runs import Laid, laid_in
from purvel.review.ducts.route_ways import ALONG_JOISTS, OVER_HEADS, WAYS, Way
from purvel.review.ducts.sizes import Speeds, problem, sizes_for, taken
from purvel.review.figures import Figures
from purvel.shop import Port, Run, Shop, Thing
from purvel.shop.parts import name_of
from purvel.space.clearances import HEAD_HEIGHT

SIZING_TIME = 3.0  # s that the sizes of one proposal are searched
_PROVEN = 2000  # assignments up to which they are gone through as a whole
_SMALL_PORT = 0.05  # m: narrower is a hand tool's, for a vac
_LOWER = 0.1  # m by which a main just over heads is lower at the least, to be worth a proposal [choice]
_SAME_COST = 0.5  # USD: proposals this near that lie alike are one


@dataclass(frozen=True, slots=True)
class Route:
    """A proposal: the shop with it, what pipe, hose and fittings cost [USD], metres of pipe and of hose, how
    many elbows and branches; the share of what is asked that is met where it is tightest; the height of its
    main's middle [m], what it could not keep clear of, in words, and ports that it leaves out.
    """

    name: str
    shop: Shop
    cost: float
    pipe: float
    hose: float
    elbows: int
    branches: int
    share: float
    height: float
    given_up: tuple[str, ...]
    left_out: tuple[str, ...]

    @property
    def holds(self) -> bool:
        """Whether all flows and speeds that are asked for are met."""
        return self.share >= HOLDS


@dataclass(frozen=True, slots=True)
class Routing:
    """How far a search is: the proposals so far, the cheapest first, and the share that is done."""

    routes: tuple[Route, ...]
    done: float
    why_none: str = ""


def routings(answers: Answers, source: str, speeds: Speeds = "want") -> Iterator[Routing]:
    """Proposals as they are found; the last is the answer. Raises ValueError where nothing can be proposed,
    and says why; Stopped when nobody waits any more.
    """
    search = _Search(answers, source, speeds)
    found: list[Route] = []
    whys: list[str] = []
    yield Routing((), 0.0)
    ways = (*WAYS, ALONG_JOISTS) if answers.shop.room.ceiling.joists else WAYS
    trials = [(way, height) for height in search.heights for way in ways]
    trials += [(OVER_HEADS, height) for height in search.over_heads]
    for number, (way, height) in enumerate(trials, start=1):
        try:
            route = search.route(way, height)
        except ValueError as exc:
            whys.append(str(exc))
        else:
            if not any(_is_same(route, other) for other in found):
                found.append(route)
        found.sort(key=lambda one: (len(one.given_up), not one.holds, one.cost))
        yield Routing(tuple(found), number / len(trials), "" if found else " ".join(dict.fromkeys(whys)))


def _is_same(one: Route, other: Route) -> bool:
    return abs(one.cost - other.cost) < _SAME_COST and abs(one.pipe - other.pipe) < 0.05


class _Search:
    def __init__(self, answers: Answers, source: str, speeds: Speeds) -> None:
        self.answers, self.shop, self.speeds = answers, answers.shop, speeds
        thing = self.shop.thing(source)
        if thing is None or thing.source is None:
            raise ValueError("Pick a collector, cyclone or vac: pipe is led from its inlet.")
        if not answers.of(PipeRoom).shell.traverse.is_closed:
            raise ValueError("The room is not closed yet: walls are needed to lead pipe along.")
        self.source, self.inlet = thing, thing.source
        self.room = answers.of(PipeRoom)
        self.frame = Frame(self.room)
        self.sizes = sizes_for(self.inlet)
        if any(layout.others for layout in self._layouts):
            raise ValueError("Two sources pull at that line: no routes are proposed there.")
        self.left_out: list[str] = []
        self.machines = self._machines()
        if not self.machines:
            raise ValueError("No machine's port is there that it could serve.")
        self.at_once = self._at_once()
        self._leave_out()
        self.made_of = self._made_of(self._size(frozenset(range(len(self.machines)))))

    def _leave_out(self) -> None:
        """Leaves out machines to which no pipe can come down. Raises ValueError where that is all of them."""
        why: dict[int, str] = {}
        for n in range(len(self.machines)):
            try:
                self._drops(n, self.heights[0])
            except ValueError as exc:
                why[n] = str(exc)
        if len(why) == len(self.machines):
            raise ValueError(" ".join(why.values()))
        self.left_out += [sentence.rstrip(".") for sentence in why.values()]
        self.machines = [one for n, one in enumerate(self.machines) if n not in why]
        self.at_once = self._at_once()

    @property
    def heights(self) -> list[float]:
        """Heights of the main's middle [m]: under the ceiling, and under what hangs from it."""
        radius = self._size(frozenset(range(len(self.machines)))) / 2
        ceiling = self.shop.room.ceiling.height
        hanging = [
            one.bottom
            for one in self.shop.room.fixtures
            if one.stands == "ceiling" and one.is_body and HEAD_HEIGHT < one.bottom - 2 * radius < ceiling
        ]
        first = max(ceiling - radius - BELOW_CEILING, 0.3)
        return [first, *(low - radius - HANDLING for low in sorted(set(hanging)) if low - radius < first)]

    @property
    def over_heads(self) -> list[float]:
        """The height of a main that people just walk under, where that is lower than the others."""
        radius = self._size(frozenset(range(len(self.machines)))) / 2
        low = HEAD_HEIGHT + radius + HANDLING
        return [low] if low < min(self.heights) - _LOWER else []

    def _machines(self) -> list[tuple[Thing, tuple[Port, ...]]]:
        """The machines of this source's system and those that no run leads to, each with its ports, that with
        the greatest need first.
        """
        mine = {segment.run for layout in self._layouts for segment in layout.segments}
        elsewhere = {
            (run.port.thing, run.port.port) for run in self.shop.ducts.runs if run.port and run.id not in mine
        }
        for_vacs = self.inlet.kind != "vac" and any(
            one.source is not None and one.id != self.source.id for one in self.shop.things
        )
        found = []
        for thing in self.shop.things:
            free = [port for port in thing.ports if (thing.id, port.id) not in elsewhere]
            if for_vacs and any(port.diameter < _SMALL_PORT for port in free):
                self.left_out.append(f"{thing.name or thing.id}, a vac's port")
                free = [port for port in free if port.diameter >= _SMALL_PORT]
            if free:
                found.append((thing, tuple(sorted(free, key=self._wanted, reverse=True))))
        return found

    def _wanted(self, port: Port) -> float:
        return port.fine_flow if self.shop.ducts.target == "fine" else port.chips_flow

    @property
    def _layouts(self) -> list[Layout]:
        networks = self.answers.of(DuctAnswers).networks
        return [network.layout for network in networks if network.layout.source_thing == self.source.id]

    def _at_once(self) -> list[frozenset[int]]:
        """Machines that are drawn at together: each alone, and as the choices of gates have them."""
        number = {thing.id: n for n, (thing, _) in enumerate(self.machines)}
        found = {frozenset({n}) for n in number.values()}
        for network in self.answers.of(DuctAnswers).networks:
            if network.layout.source_thing == self.source.id and len(network.sets) > 1:
                for one in network.sets:
                    found.add(
                        frozenset(number[h.thing] for h in one.hoods if h.at_work and h.thing in number)
                    )
        return [one for one in found if one]

    # ---- sizes and prices to lay it by

    def _flow(self, n: int) -> float:
        return sum(self._wanted(port) for port in self.machines[n][1])

    def _size(self, places: frozenset[int]) -> float:
        """The size [m] in which what these places ask for at once still keeps chips moving."""
        most, wanted = 0.0, 0.0
        for together in self.at_once:
            here = together & places
            flow = sum(self._flow(n) for n in here)
            if flow > most:
                chips = any(port.carries == "chips" for n in here for port in self.machines[n][1])
                most, wanted = flow, transport("chips" if chips else "dust").want
        widest = sqrt(4 * most / (pi * wanted)) if most > 0 else self.sizes[0]
        return max((size for size in self.sizes if size <= widest), default=self.sizes[0])

    def _priced(self, way: Way, places: frozenset[int]) -> PipePrice:
        size, made = self._size(places), self.made_of.material
        piece = duct_prices().middle("piece", size, made)
        return PipePrice(duct_prices().middle("m", size, made), piece * way.elbows, piece)

    def _drop_cost(self, n: int, drop: Drop, height: float) -> float:
        size, made, prices = self._size(frozenset({n})), self.made_of.material, duct_prices()
        pipe = (height - drop.bottom) * prices.middle("m", size, made)
        pieces = (2 * len(drop.hoses) - 1) * prices.middle("piece", size, made)
        return pipe + pieces + sum(drop.hoses) * prices.middle("m", size)

    # ---- one proposal

    def route(self, way: Way, height: float) -> Route:
        """A proposal by a rule. Raises ValueError where no pipe can be led, and says why."""
        everything = frozenset(range(len(self.machines)))
        size = self._size(everything)
        ups = risers(self.room, self.source, height, size)
        places = [self._drops(n, height) for n in range(len(self.machines))]
        spots = [self.frame.turned(up.x, up.y) for up in ups]
        spots += [self.frame.turned(one.x, one.y) for drops in places for one in drops]
        grid = lattice(self.room, self.frame, spots, height, size, by_walls=way.away, by_joists=way.across)
        starts = [
            [start(grid, self.frame, one, self._drop_cost(n, one, height)) for one in drops]
            for n, drops in enumerate(places)
        ]
        full = self._priced(way, frozenset(range(len(self.machines))))
        roots = [
            Start(node_at(grid, spot), self._riser_cost(up, height, full)) for up, spot in zip(ups, spots)
        ]
        tree = gathered(grid, starts, roots, lambda them: self._priced(way, them))
        if tree is None:
            raise ValueError("No way was found under the ceiling that keeps clear of everything.")
        at = [
            [self.frame.plan(float(grid.x[c]), float(grid.y[r])) for c, r in leg.nodes] for leg in tree.legs
        ]
        laid = Laid(tree, at, ups[tree.root], height, places, self._size, self.made_of)
        shop = laid_in(self.shop, self.answers, self.source, self.machines, laid)
        return self._finished(way, shop, laid)

    def _made_of(self, size: float) -> Run:
        """What pipe is of: the shop's own, or else the first that its source cannot crush in a size [m]."""
        mine = {segment.run for layout in self._layouts for segment in layout.segments}
        duct = [key for key, one in materials().items() if one.kind == "duct" and not one.plastic]
        pipe = (run for run in self.shop.ducts.runs if materials()[run.material].kind == "duct")
        model = next((run for run in pipe if run.id in mine), Run(id="made-of"))
        suction = most_suction(self.inlet)
        holds = [key for key in (model.material, *duct) if materials()[key].collapse_limit(size) >= suction]
        return replace(model, material=holds[0] if holds else model.material)

    def _riser_cost(self, up: Riser, height: float, price: PipePrice) -> float:
        """What pipe from the inlet to the main costs [USD]."""
        inlet = self.source.z + self.inlet.inlet_z
        aside = 0.0 if up.turned_at is None else dist(up.turned_at, (up.x, up.y))
        return (up.straight + aside + abs(height - inlet)) * price.metre + (2 + (aside > 0)) * price.elbow

    def _name(self, thing: str) -> str:
        return name_of(self.shop, thing)

    def _drops(self, n: int, height: float) -> list[Drop]:
        thing, ports = self.machines[n]
        return drops(self.room, thing, ports, height, self._size(frozenset({n})) / 2)

    def _finished(self, way: Way, shop: Shop, laid: Laid) -> Route:
        """Sized, counted and looked at for what it could not keep clear of."""
        answers = Answers(shop, self.answers.memory)
        network = next(
            one for one in answers.of(DuctAnswers).networks if one.layout.source_thing == self.source.id
        )
        posed = problem(answers, network, self.speeds)
        best = list(sizings(posed.system, posed.asked, posed.prices, "cost", SIZING_TIME, _PROVEN))[-1].best
        shop = taken(shop, best)
        answers = Answers(shop, self.answers.memory)
        mine = set(posed.system.runs)
        paths = answers.of(DuctAnswers).run_paths
        parts = [part for part in answers.of(DuctAnswers).parts if part.run in mine]
        hoses = {run.id for run in shop.ducts.runs if materials()[run.material].kind == "hose"}
        return Route(
            way.name,
            shop,
            sum(part.amount * duct_prices().middle(part.unit, part.size, part.material) for part in parts),
            sum(length_of(paths[run]) for run in mine - hoses),
            sum(length_of(paths[run]) for run in mine & hoses),
            _pieces(parts, lambda name: name.endswith((", 45°", ", 90°"))),
            _pieces(parts, lambda name: name.startswith("Branch fitting")),
            best.share,
            laid.height,
            tuple(self._given_up(answers, mine, laid)),
            tuple(self.left_out),
        )

    def _given_up(self, answers: Answers, mine: set[str], laid: Laid) -> Iterator[str]:
        say = Figures(self.shop.units)
        if laid.tree.crosses:
            yield "pipes of it cross: one must go under the other"
        if not laid.riser.is_enough:
            yield f"only {say.length(laid.riser.straight)} of straight pipe before the inlet"
        for leg in laid.tree.legs:
            if leg.start is not None:
                n = min(leg.places)
                for zone in laid.drops[n][leg.start].given_up:
                    drop = self._name(self.machines[n][0].id)
                    yield f"the drop to {drop}: {self._name(zone.about)}, {zone.why}"
        room, lowest = answers.of(PipeRoom), inf
        for run in answers.shop.ducts.runs:
            if run.id in mine and run.port is None:
                path = answers.of(DuctAnswers).run_paths[run.id]
                lowest = min(lowest, room.lowest_over_heads(path, run.diameter / 2))
        if lowest < HEAD_HEIGHT:
            yield f"pipe over the floor is only {say.length(lowest)} up: mind heads"


def _pieces(parts: list[Part], is_one: Callable[[str], bool]) -> int:
    return round(sum(part.amount for part in parts if is_one(part.part)))
