"""Rules of the sources' curves: where they end, what is known of them, what is blown back through them."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.airflow.flows import GateSetFlow, NetworkResult
from purvel.airflow.sources import BANDS, FLOW_READ, GAUGE, SourceCurve
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.shop import Source
from purvel.shop.parts import name_of

_IDLE = 1e-3  # m3/s: less is no flow to speak of


def curve_ends(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Choices in which a source works where its curve says nothing: past the last point, or left of the
    highest.
    """
    solved = [one for one in network.sets if one.converged]
    for number, (thing, source) in enumerate(network.layout.sources):
        flows = [(one.sources[number].flow, one) for one in solved]
        yield from _past(answers, thing, SourceCurve(source), flows, say)
        yield from _hump(answers, thing, SourceCurve(source), flows, say)


def _past(
    answers: Answers, thing: str, curve: SourceCurve, flows: list[tuple[float, GateSetFlow]], say: Figures
) -> Iterator[Finding]:
    past = [(flow, one) for flow, one in flows if flow > curve.last_flow]
    if not past:
        return
    flow, most = max(past, key=lambda pair: pair[0])
    choices = ", ".join(f"“{answers.of(DuctAnswers).choice_name(one.id)}”" for _, one in past[:3])
    yield Finding(
        "curve-past",
        Grade.WATCH,
        (thing,),
        f"{name_of(answers.shop, thing)} works past the last point of its curve with {choices}: those flows are"
        " guessed.",
        f"The last point is {say.flow(curve.last_flow)}; from there on the curve is drawn out as straight as it ends,"
        f" up to {say.flow(flow)}. Put in another point of the maker's curve.",
        Basis("geometry", "As far as the curve goes."),
        Where((thing,), gate_set=most.id),
        {"flow": flow, "last": curve.last_flow},
    )


def _hump(
    answers: Answers, thing: str, curve: SourceCurve, flows: list[tuple[float, GateSetFlow]], say: Figures
) -> Iterator[Finding]:
    hump = [(flow, one) for flow, one in flows if one.hoods and flow < curve.peak_flow]
    if not hump or curve.top == 0:
        return
    flow, least = min(hump, key=lambda pair: pair[0])
    yield Finding(
        "curve-hump",
        Grade.WATCH,
        (thing,),
        f"{name_of(answers.shop, thing)} works left of the highest point of its curve with"
        f" “{answers.of(DuctAnswers).choice_name(least.id)}”: a fan may surge there.",
        f"{say.flow(flow)}, where the curve is highest at {say.flow(curve.peak_flow)}. The figures take the highest"
        " pressure there.",
        Basis("published practice", "Fan practice: work right of the peak (medium confidence)."),
        Where((thing,), gate_set=least.id),
        {"flow": flow, "peak": curve.peak_flow},
    )


def blown_back(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Sources that a stronger one on the same line pulls air back through, or holds still."""
    for number, (thing, _) in enumerate(network.layout.sources):
        flows = [(one.sources[number].flow, one) for one in network.sets if one.converged and one.hoods]
        least = min(flows, key=lambda pair: pair[0], default=None)
        if len(network.layout.sources) < 2 or least is None or least[0] > _IDLE:
            continue
        flow, one = least
        name, choice = name_of(answers.shop, thing), answers.of(DuctAnswers).choice_name(one.id)
        is_back = flow < -_IDLE
        yield Finding(
            "blown-back",
            Grade.MEND if is_back else Grade.WATCH,
            (thing,),
            f"With “{choice}” {say.flow(-flow)} are pulled backwards through {name}, filter and all."
            if is_back
            else f"With “{choice}” {name} moves next to nothing: the other source holds it at its most suction.",
            "Two sources on one line pull at one suction; the one that reaches it without flow adds nothing, and one"
            " that cannot reach it is blown through the wrong way. A flap or a gate at its inlet keeps that from it."
            " Backwards its curve is taken as level.",
            Basis("geometry", "Both curves against the network (the curve backwards: low confidence)."),
            Where((thing,), gate_set=one.id),
            {"flow": flow},
        )


def known_of(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """What is known of the curve of each source."""
    for thing, source in network.layout.sources:
        yield from _known_of(thing, source, name_of(answers.shop, thing), say)


def _known_of(thing: str, source: Source, name: str, say: Figures) -> Iterator[Finding]:
    if source.sealed is not None and source.open_flow is not None:
        yield Finding(
            "curve-read",
            Grade.GOOD,
            (thing,),
            f"The curve of {name} goes through your own readings: {say.pressure(source.sealed)} with its inlet blocked,"
            f" {say.flow(source.open_flow)} with it open.",
            f"Between them it has the shape that it had. A suction is read to {GAUGE:.0%}, a flow to {FLOW_READ:.0%}.",
            Basis("your measurement", "Sealed suction and open flow."),
            Where((thing,)),
        )
        return
    if source.curve_from == "plate":
        weak, strong = BANDS["plate"]
        yield Finding(
            "curve-plate",
            Grade.WATCH,
            (thing,),
            f"Two figures are all that is known of the curve of {name}: flows are told with what that leaves open.",
            "Most suction and most flow are never there together. Between them a vac's curve is taken as straight"
            f" and a fan's as round, with {weak.pressure:.0%} to {strong.pressure:.0%} of the pressure and"
            f" {weak.flow:.0%} to {strong.flow:.0%} of the flow. The maker's points or two readings of your own say"
            " more.",
            Basis("a guess", "The shape of such curves (low confidence)."),
            Where((thing,)),
        )
    if source.curve_from == "representative":
        yield Finding(
            "curve-representative",
            Grade.WATCH,
            (thing,),
            f"The curve of {name} is a representative one: flows are good to about a fifth. Put in your"
            " maker's points.",
            "Makers' “free air” figures are measured without filter, hose or duct, and often not at all: at a"
            " machine a third to two thirds of it arrive.",
            Basis(
                "trade practice",
                "Representative curve, ±20 % in pressure and ±25 % in flow (low confidence).",
            ),
            Where((thing,)),
        )
