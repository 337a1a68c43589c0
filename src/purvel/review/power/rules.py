"""Rules of power and light: what trips, what is plugged in nowhere, cords in people's way."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.catalogue.power import conductors
from purvel.power.circuits import BRANCH_DROP, LONG, ONE_CORD, TOTAL_DROP, Loading
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.review.power.answers import LIGHTS, PowerAnswers, Together
from purvel.review.power.light_rules import light
from purvel.review.stage import Rule
from purvel.shop.parts import name_of

LONG_CORD = 7.6  # m; 25 ft: longer cords are seldom heavy enough [trade practice]
_DEFER = "Local codes and a licensed electrician decide and do it."
_BREAKER = Basis(
    "published limit", f"What runs for three hours or more counts 1.25 times (NEC 210.20). {_DEFER}"
)
_DROP = Basis(
    "published practice", f"3 % over the circuit and 5 % in all (NEC notes, IEC 60364-5-52). {_DEFER}"
)


def amps(value: float) -> str:
    """A current."""
    return f"{value:.3g} A"


def together_name(answers: Answers, one: Together) -> str:
    """What runs, in words."""
    if one.is_gate_set:
        return answers.of(DuctAnswers).choice_name(one.of)
    return name_of(answers.shop, one.of)


def consumer_name(answers: Answers, consumer: str) -> str:
    """A consumer's name."""
    return "lights" if consumer == LIGHTS else name_of(answers.shop, consumer)


def _list(answers: Answers, load: Loading) -> str:
    return " + ".join(f"{consumer_name(answers, one.id)} {amps(one.amps)}" for one in load.consumers)


def load_grade(load: Loading) -> Grade:
    """What the load of a circuit is worth; its finding and the colours of its bar go by it."""
    return Grade.STOP if load.trips else Grade.GOOD if load.holds else Grade.MEND


def _circuits(answers: Answers, say: Figures) -> Iterator[Finding]:
    """What trips, what is too much for hours, and that the rest holds."""
    power = answers.of(PowerAnswers)
    holding = [load for _, load in power.worst.values() if load.holds and not load.trips and load.consumers]
    for circuit, (one, load) in power.worst.items():
        name = name_of(answers.shop, circuit)
        items = tuple(c.id for c in load.consumers if c.id != LIGHTS)
        figures = {"amps": load.amps, "counted": load.counted, "rating": load.rating}
        where = Where((circuit, *items), gate_set=one.of if one.is_gate_set else None)
        what = together_name(answers, one)
        if load.trips:
            sentence = (
                f"{name} trips with {what} running: {amps(load.amps)} on a breaker of {amps(load.rating)}."
            )
        elif not load.holds:
            sentence = (
                f"{name} is too full for long work with {what} running: it counts"
                f" {amps(load.counted)} of {amps(load.rating)}."
            )
        else:
            continue
        why = (
            f"{_list(answers, load)} = {amps(load.amps)}; what runs long counts {LONG:g} times:"
            f" {amps(load.counted)}. Motors draw five to eight times that for a moment when they start."
        )
        yield Finding("circuit", load_grade(load), (circuit,), sentence, why, _BREAKER, where, figures)

    if holding:
        yield _holding(answers, holding)


def _holding(answers: Answers, holding: list[Loading]) -> Finding:
    """The circuits that hold whatever runs, in one finding."""
    fullest = max(holding, key=lambda load: load.counted / load.rating)
    names = ", ".join(name_of(answers.shop, load.circuit) for load in holding)
    return Finding(
        "circuit",
        Grade.GOOD,
        (),
        f"{names} hold: at most {amps(fullest.counted)} of {amps(fullest.rating)} is on one of them.",
        f"The fullest is {name_of(answers.shop, fullest.circuit)}: {_list(answers, fullest)}.",
        _BREAKER,
        Where(tuple(load.circuit for load in holding)),
        {"amps": fullest.amps, "counted": fullest.counted, "rating": fullest.rating},
    )


def _plugs(answers: Answers, say: Figures) -> Iterator[Finding]:
    power = answers.of(PowerAnswers)
    for thing, cord in power.plugs.items():
        drawn = power.draws[thing]
        name = name_of(answers.shop, thing)
        if cord is None:
            yield Finding(
                "no-outlet",
                Grade.MEND,
                (thing,),
                f"{name} has no outlet: it needs {drawn.volts} V and {amps(drawn.amps)}.",
                f"No outlet on a circuit of {drawn.volts} V is in the plan.",
                Basis("maker's figure" if drawn.is_plate else "a guess", f"Its plate decides. {_DEFER}"),
                Where((thing,)),
                {"amps": drawn.amps, "volts": float(drawn.volts)},
            )
            continue
        circuit = power.circuit_of(cord.outlet)
        if circuit is None or circuit.volts != drawn.volts:
            has = "no circuit" if circuit is None else f"{circuit.volts} V"
            yield Finding(
                "wrong-outlet",
                Grade.STOP,
                (thing,),
                f"{name} needs {drawn.volts} V; {name_of(answers.shop, cord.outlet)} has {has}.",
                "It is plugged in there by your choice.",
                Basis("maker's figure", f"Its plate decides. {_DEFER}"),
                Where((thing, cord.outlet)),
                {"volts": float(drawn.volts)},
            )
        elif drawn.amps > ONE_CORD * circuit.rating:
            yield Finding(
                "plug-heavy",
                Grade.WATCH,
                (thing,),
                f"{name} alone takes {amps(drawn.amps)}, more than {ONE_CORD:.0%} of {name_of(answers.shop, circuit.id)}.",
                f"{amps(ONE_CORD * circuit.rating)} of {amps(circuit.rating)} is the most for one plug where"
                " a circuit has more outlets; a circuit of its own may carry more.",
                Basis("published limit", f"NEC 210.23(A)(1). {_DEFER}"),
                Where((thing, circuit.id)),
                {"amps": drawn.amps, "rating": circuit.rating},
            )


def _cords(answers: Answers, say: Figures) -> Iterator[Finding]:
    power, shop = answers.of(PowerAnswers), answers.shop
    for thing, cord in power.plugs.items():
        if cord is None:
            continue
        name, outlet = name_of(shop, thing), name_of(shop, cord.outlet)
        if cord.is_in_the_way:
            over = (
                f"before {name_of(shop, cord.doors[0])}"
                if cord.doors
                else f"across {say.length(cord.across)} of floor where people walk"
            )
            yield Finding(
                "cord-in-the-way",
                Grade.MEND,
                (thing,),
                f"The cord of {name} lies {over}.",
                f"It goes {say.length(cord.length)} to {outlet}, the best of the outlets that fit. A cord on"
                " the floor trips people and is run over.",
                Basis("geometry", "Straight to the nearest walls and along them; bodies are not gone round."),
                Where((thing, cord.outlet)),
                {"across": cord.across, "length": cord.length},
            )
        elif cord.length > LONG_CORD:
            yield Finding(
                "cord-long",
                Grade.WATCH,
                (thing,),
                f"The cord of {name} is {say.length(cord.length)} long, to {outlet}.",
                f"Beyond {say.length(LONG_CORD)} a cord must be heavy. A fixed outlet nearer by is better.",
                Basis("trade practice", "Extension cords are for a while, not for good."),
                Where((thing, cord.outlet)),
                {"length": cord.length},
            )


def _drops(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Circuits on which the voltage falls too far, with the machines where it does."""
    power = answers.of(PowerAnswers)
    low: dict[str, list[str]] = {}
    for thing, drop in power.drops.items():
        cord = power.plugs.get(thing)
        circuit = None if cord is None else power.circuit_of(cord.outlet)
        if circuit is not None and (drop.branch > BRANCH_DROP or drop.total > TOTAL_DROP):
            low.setdefault(circuit.id, []).append(thing)
    for circuit_id, things in low.items():
        yield _drop(answers, circuit_id, max(things, key=lambda thing: power.drops[thing].total), things, say)


def _drop(answers: Answers, circuit_id: str, worst: str, things: list[str], say: Figures) -> Finding:
    power, shop = answers.of(PowerAnswers), answers.shop
    drop, item, cord, circuit = (
        power.drops[worst],
        shop.thing(worst),
        power.plugs[worst],
        power.circuits[circuit_id],
    )
    assert item is not None and cord is not None
    wire, lead = conductors()[circuit.conductor].name, conductors()[power.cord_of(item)].name
    others = [name_of(shop, thing) for thing in things if thing != worst]
    also = f", and too far at {', '.join(others)}" if others else ""
    return Finding(
        "voltage-drop",
        Grade.MEND if drop.total > TOTAL_DROP else Grade.WATCH,
        (circuit_id,),
        f"The voltage at {name_of(shop, worst)} falls by {drop.total:.1%} with all that runs along{also}.",
        f"{drop.circuit:.2g} V over {say.distance(power.run_length(circuit) or 0.0)} of {wire} and"
        f" {drop.cord:.2g} V over {say.distance(cord.length)} of cord ({lead}); 2 L I R each.",
        _DROP,
        Where((worst, circuit_id, cord.outlet)),
        {"total": drop.total, "branch": drop.branch},
    )


def _breakers(answers: Answers, say: Figures) -> Iterator[Finding]:
    """Breakers that are too large for their wire, and circuits that no residual current trips."""
    shop = answers.shop
    for circuit in shop.power.circuits:
        wire = conductors().get(circuit.conductor)
        if wire is not None and circuit.rating > wire.breaker:
            yield Finding(
                "wire-thin",
                Grade.STOP,
                (circuit.id,),
                f"{name_of(shop, circuit.id)}: a breaker of {amps(circuit.rating)} does not protect {wire.name}.",
                f"{wire.name} copper is usual up to {amps(wire.breaker)}. The wire would get hot before the"
                " breaker trips.",
                Basis("published limit", f"NEC 240.4(D); IEC 60364-5-52. {_DEFER}"),
                Where((circuit.id,)),
                {"rating": circuit.rating, "breaker": wire.breaker},
            )
    bare = [one for one in shop.power.circuits if not one.residual and _has_outlets(answers, one.id)]
    if bare:
        names = ", ".join(name_of(shop, one.id) for one in bare)
        word = "RCD" if shop.power.service == "230" else "GFCI"
        yield Finding(
            "residual",
            Grade.WATCH,
            (),
            f"No {word} is noted for {names}.",
            f"Outlets in garages, sheds and cellars usually need one ({word}: it trips on a current that leaks"
            " to earth, through a person too).",
            Basis("published limit", f"NEC 210.8 (2020 and later); IEC 60364-4-41. {_DEFER}"),
            Where(tuple(one.id for one in bare)),
            {"circuits": len(bare)},
        )


def _has_outlets(answers: Answers, circuit: str) -> bool:
    return any(outlet.circuit == circuit for outlet in answers.shop.power.outlets)


def _plates(answers: Answers, say: Figures) -> Iterator[Finding]:
    power = answers.of(PowerAnswers)
    guessed = [thing for thing, drawn in power.draws.items() if not drawn.is_plate]
    if guessed:
        names = ", ".join(name_of(answers.shop, thing) for thing in guessed)
        yield Finding(
            "plate-guessed",
            Grade.WATCH,
            (),
            f"What {len(guessed)} machines draw is what their kind usually does: read their plates.",
            f"{names}. Pick each and type amps or watts off its plate.",
            Basis("a guess", "Usual sizes of home-shop machines; motors by NEC table 430.248."),
            Where(tuple(guessed)),
            {"machines": len(guessed)},
        )


RULES: tuple[Rule, ...] = (_circuits, _plugs, _cords, _drops, _breakers, _plates, light)
