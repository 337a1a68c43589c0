"""Rules of ducts as they are drawn, before any air moves: what leads nowhere, hangs in a door, or lets go in
a scene.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import inf

from purvel.airflow.paths import Path, length_of
from purvel.catalogue import kinds_that, materials
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.pipe_room import SWEPT, PipeRoom, Zone, met
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.scenes import scene_name, standing
from purvel.shop import Port, Run, Thing
from purvel.shop.parts import name_of
from purvel.space.clearances import HEAD_HEIGHT

AS_DRAWN = Basis("geometry", "As drawn.")
_FIRE = Basis(
    "trade practice",
    "Grinding counts as hot work: 11 m (35 ft) clear of what burns, or screened (NFPA 51B). Wood dust burns, and in a"
    " cloud explodes (NFPA 652, 664); what is asked of a home shop your fire code says.",
)
LONG_END = 0.4  # m: pipe beyond the last branch, longer than this collects dust [trade practice]


def run_name(answers: Answers, run_id: str) -> str:
    """A run's name as the beginning of a sentence."""
    name = name_of(answers.shop, run_id)
    return name if name[:1].isupper() else f"Run {name}"


def hoodless(answers: Answers, _: Figures) -> Iterator[Finding]:
    """Sources whose ducts lead to no machine."""
    for network in answers.of(DuctAnswers).networks:
        if not network.layout.hoods:
            source = network.layout.source_thing
            sentence = f"No run leads from {name_of(answers.shop, source)} to a machine yet."
            why = "Draw a drop or a hose from the main to a machine's port."
            yield Finding("no-hood", Grade.MEND, (source,), sentence, why, AS_DRAWN, Where((source,)))


def loose(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Runs that lead to no source, and ends that lead to no machine."""
    networks = answers.of(DuctAnswers).networks
    reached = {segment.run for network in networks for segment in network.layout.segments}
    let_go = answers.ask(standing, answers.base, answers.scene).let_go  # said once, by `in_scene`
    for run in answers.shop.ducts.runs:
        if not length_of(answers.of(DuctAnswers).run_paths[run.id]):
            sentence = (
                f"{run_name(answers, run.id)} has no length: it is not counted, and its machine has no duct."
            )
            why = "Both its ends lie on one spot. Move one of them, or give it a corner."
            yield Finding("run-short", Grade.MEND, (run.id,), sentence, why, AS_DRAWN, Where((run.id,)))
            continue
        if run.id not in reached:
            sentence = f"{run_name(answers, run.id)} leads to no collector or vac."
            why = "Its fan end is on no source's inlet and on no run that reaches one, so no air moves in it."
            yield Finding("run-loose", Grade.MEND, (run.id,), sentence, why, AS_DRAWN, Where((run.id,)))
            continue
        end = _capped_end(answers, run)
        if end > LONG_END and run.id not in let_go:
            sentence = f"{run_name(answers, run.id)} ends at no machine; its end is taken as capped."
            why = f"{say.length(end)} of pipe beyond the last branch carry no air and collect dust."
            yield Finding("run-capped", Grade.WATCH, (run.id,), sentence, why, AS_DRAWN, Where((run.id,)))


def _capped_end(answers: Answers, run: Run) -> float:
    """How much pipe lies beyond a run's last branch [m]; 0 where it leads to a machine or goes on."""
    joined = [one.joins for one in answers.shop.ducts.runs if one.joins and one.joins.run == run.id]
    leads_on = run.port is not None or (run.source is not None and run.joins is not None)
    if leads_on or any(join.at is None for join in joined):
        return 0.0
    last = max((join.at or 0.0 for join in joined), default=0.0)
    return length_of(answers.of(DuctAnswers).run_paths[run.id]) - last


def unconnected(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Machines without a dust connection."""
    shop = answers.shop
    if not shop.ducts.runs:
        return
    taken = shop.ducts.connected_ports
    let_go = set(answers.ask(standing, answers.base, answers.scene).let_go)
    told = {run.port.thing for run in answers.base.ducts.runs if run.id in let_go and run.port}
    for thing in shop.things:
        free = [port for port in thing.ports if (thing.id, port.id) not in taken]
        if free and len(free) < len(thing.ports):
            yield _partly_connected(thing, free, say)
        elif free and thing.id not in told:
            sentence = f"{thing.name or thing.id} has no dust connection."
            why = (
                "Its port is open to the room: what it throws off stays in the room. A hose moved to it when"
                " it runs counts too."
            )
            yield Finding(
                "port-free",
                Grade.WATCH,
                (thing.id,),
                sentence,
                why,
                AS_DRAWN,
                Where((thing.id,)),
            )


def _partly_connected(thing: Thing, free: Sequence[Port], say: Figures) -> Finding:
    need = sum(port.chips_flow for port in thing.ports)
    open_ports = sum(port.chips_flow for port in free)
    words = ", ".join(port.id for port in free)
    return Finding(
        "port-partly",
        Grade.WATCH,
        (thing.id,),
        f"{thing.name or thing.id} is connected at one port and not at another ({words}): {say.flow(open_ports)} of"
        f" the {say.flow(need)} that it needs are not asked for.",
        "A machine with several ports shares one need between them; dust leaves where no air is drawn.",
        AS_DRAWN,
        Where((thing.id,)),
        {"free": open_ports, "need": need},
    )


def overhead(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Runs that hang where a door goes when it opens."""
    for run, door in _met_zones(answers):
        if door.why == SWEPT:
            yield Finding(
                "duct-in-door",
                Grade.STOP,
                (run.id, door.about),
                f"{run_name(answers, run.id)} hangs where {name_of(answers.shop, door.about)} goes when it opens.",
                f"The door takes the space from {say.length(door.low)} to {say.length(door.high)} above the floor."
                " Lead the pipe round it or along another wall.",
                Basis("maker's figure", "Headroom as entered for this door."),
                Where((run.id, door.about)),
            )


def _met_zones(answers: Answers) -> Iterator[tuple[Run, Zone]]:
    """Each run with each zone of the room that it lies in, of those that are not given up."""
    solid = tuple(zone for zone in answers.of(PipeRoom).fixed if not zone.soft)
    for run in answers.shop.ducts.runs:
        for zone in answers.ask(_met, run, answers.of(DuctAnswers).run_paths[run.id], solid):
            yield run, zone


def in_the_way(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Runs that lie in what is to stay free, and runs over the floor that heads meet."""
    for run, zone in _met_zones(answers):
        if zone.why != SWEPT:
            yield Finding(
                "duct-meets",
                Grade.MEND,
                (run.id, zone.about),
                f"{run_name(answers, run.id)} goes through what {name_of(answers.shop, zone.about)} needs: {zone.why}.",
                "Lead it round, higher or along another wall. Before a panel and over it nothing is run; off flames the maker's"
                " manual and local codes say how far.",
                Basis(
                    "trade practice",
                    "Room kept free round what is there: our choice, but for the panel's (NEC 110.26).",
                ),
                Where((run.id, zone.about)),
            )
    room, paths = answers.of(PipeRoom), answers.of(DuctAnswers).run_paths
    for run in answers.shop.ducts.runs:
        path = paths[run.id]
        lowest = room.lowest_over_heads(path, run.diameter / 2) if run.port is None else inf
        if lowest < HEAD_HEIGHT:
            yield Finding(
                "duct-low",
                Grade.WATCH,
                (run.id,),
                f"{run_name(answers, run.id)} hangs {say.length(lowest)} over floor that people walk on: mind heads.",
                f"Pipe that one walks under hangs at {say.length(HEAD_HEIGHT)} or more, or along a wall.",
                Basis("trade practice", "Head height as in the ways of Place."),
                Where((run.id,)),
                {"lowest": lowest},
            )


def _met(run: Run, path: Path, zones: Sequence[Zone]) -> tuple[Zone, ...]:
    return tuple(met(path, run.diameter / 2, zones))


def plastic(answers: Answers, _: Figures) -> Iterator[Finding]:
    """Plastic pipe charges."""
    plastic = [
        run.id
        for run in answers.shop.ducts.runs
        if materials()[run.material].plastic and materials()[run.material].kind == "duct"
    ]
    if plastic:
        yield Finding(
            "plastic-duct",
            Grade.WATCH,
            (),
            "Plastic pipe can charge and give you a shock: bond and earth every metal part on it.",
            "Metal duct, bonded and earthed, is the better-documented choice. A wire on the outside of"
            " plastic pipe does not earth the pipe. Commercial premises follow their fire code, which"
            " generally asks for conductive duct.",
            Basis(
                "trade practice",
                "People argue about the risk; no well-documented home-shop case is known to us, which is no"
                " proof (low confidence).",
            ),
            Where(tuple(plastic)),
        )


def ignition(answers: Answers, _: Figures) -> Iterator[Finding]:
    """What may bring sparks to wood dust: grinding in the same room, metal that is swept up."""
    shop = answers.shop
    sources = [thing.id for thing in shop.things if thing.source is not None]
    sparking = [thing.id for thing in shop.things if thing.kind in kinds_that("sparks")]
    if sources and sparking:
        names = ", ".join(name_of(shop, thing) for thing in sparking)
        yield Finding(
            "sparks",
            Grade.WATCH,
            tuple(sparking),
            f"{names} throws sparks in a room with wood dust: shut the dust collection off, clear or screen what can burn.",
            "Embers glow on for hours in a bag or a heap of dust: look again half an hour and an hour later. Never lead a duct"
            " for wood dust to it.",
            _FIRE,
            Where((*sparking, *sources)),
        )
    for network in answers.of(DuctAnswers).networks:
        layout = network.layout
        ends = {segment.hood.thing for segment in layout.segments if segment.hood is not None}
        sweeping = [one.id for one in shop.things if one.id in ends and one.kind in kinds_that("sweeps")]
        if sweeping:
            stopped = "most of it stays in the separator before that." if layout.source.separator else ""
            yield Finding(
                "metal-swept",
                Grade.WATCH,
                tuple(sweeping),
                f"{name_of(shop, sweeping[0])}: pick up nails, screws and embers by hand or with a magnet before you sweep.",
                f"A nail can strike a spark at the impeller; {stopped or 'nothing stops it before that.'}",
                _FIRE,
                Where(tuple(sweeping)),
            )


def in_scene(answers: Answers, _: Figures) -> Iterator[Finding]:
    """What the ducts of the drawn shop lose in the scene that is looked at, said once."""
    held = answers.ask(standing, answers.base, answers.scene)
    base, scene = answers.base, scene_name(answers.base, answers.scene)
    if held.sources_away:
        names = ", ".join(name_of(base, source) for source in held.sources_away)
        sentence = f"In “{scene}” {names} is away from its ducts: they are not checked there."
        why = "It is put away, or it moved off the pipe at its inlet."
        yield Finding(
            "source-away", Grade.WATCH, held.sources_away, sentence, why, AS_DRAWN, Where(held.sources_away)
        )
    if held.let_go:
        names = ", ".join(name_of(base, run) for run in held.let_go)
        sentence = f"In “{scene}” these let go of their machine: {names}."
        why = "A hose follows a machine as far as it is long when stretched; a pipe stays where it is."
        if held.gate_sets_out:
            out = ", ".join(name_of(base, gate_set) for gate_set in held.gate_sets_out)
            why += f" Choices of gates that open no hood then are left out: {out}."
        yield Finding("run-let-go", Grade.WATCH, held.let_go, sentence, why, AS_DRAWN, Where(held.let_go))
