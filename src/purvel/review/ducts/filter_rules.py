"""What the state of a source's filter does to every hood."""

from __future__ import annotations

from collections.abc import Iterator

from purvel.airflow.flows import NetworkResult
from purvel.airflow.segments import Hood, Layout
from purvel.catalogue import filter_states
from purvel.review.answers import Answers
from purvel.review.ducts.answers import DuctAnswers
from purvel.review.ducts.flow_rules import hood_grade
from purvel.review.ducts.standing import wanted_flow
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Where
from purvel.shop.parts import name_of

_WORST = "clogged"
_BASIS = Basis(
    "trade practice",
    "Resistance of filter media by their state (low confidence); your own gauge knows better.",
)
_IN_STATE = {"clean": "with it clean", "seasoned": "with it in use", _WORST: "with it clogged"}
_MEANS = {
    Grade.STOP: "it will plug",
    Grade.MEND: "too little to clear its chips",
    Grade.WATCH: "fine dust gets past",
}


def filters(answers: Answers, network: NetworkResult, say: Figures) -> Iterator[Finding]:
    """Each system with a filter that is not clogged yet: what the hoods get when it is."""
    layout, now = network.layout, least_flows(network)
    filters = [source.filter for _, source in layout.sources if source.filter is not None]
    if all(one.resistance >= filter_states(one.medium)[_WORST] for one in filters) or not now:
        return
    ducts = answers.of(DuctAnswers)
    by_state = {state: least_flows(ducts.at_filter(network, state)) for state in filter_states()}
    then = by_state[_WORST]

    def falls_to(column: int) -> Grade:
        """What the hood is worth with the filter clogged; Good where it is worth no less than now."""
        hood = _hood(layout, column)
        wanted = wanted_flow(answers.shop, hood)
        grade = hood_grade(hood, then[column], wanted)
        return grade if grade < hood_grade(hood, now[column], wanted) else Grade.GOOD

    grade, left, worst = min((falls_to(column), then[column] / now[column], column) for column in now)
    name = name_of(answers.shop, _hood(layout, worst).thing)
    owner = " and ".join(name_of(answers.shop, thing) for thing, one in layout.sources if one.filter)
    if grade < Grade.GOOD:
        sentence = (
            f"With the filter of {owner} clogged {name} gets {say.flow(then[worst])} instead of"
            f" {say.flow(now[worst])}: {_MEANS[grade]}."
        )
    else:
        sentence = (
            f"With its filter clogged {owner} still serves every hood as now; {name} loses {1 - left:.0%}."
        )
    rows = "; ".join(
        f"{name_of(answers.shop, _hood(layout, column).thing)} "
        + ", ".join(f"{say.flow(flows[column])} {_IN_STATE[state]}" for state, flows in by_state.items())
        for column in now
    )
    yield Finding(
        "filter-loads",
        Grade.WATCH if grade < Grade.GOOD else Grade.GOOD,
        (layout.source_thing,),
        sentence,
        f"The least over all choices in which a hood is open: {rows}. Clean it by the suction lost across it, before"
        " it comes to that.",
        _BASIS,
        Where((layout.source_thing,)),
        {"left": left},
    )


def _hood(layout: Layout, column: int) -> Hood:
    hood = layout.segments[layout.hoods[column]].hood
    assert hood is not None  # that is what the layout lists them by
    return hood


def least_flows(network: NetworkResult) -> dict[int, float]:
    """The least flow of each hood, by its number, over the choices in which it is open [m3/s]."""
    found = dict[int, float]()
    for one in network.sets:
        for column, hood in enumerate(one.hoods):
            if one.converged and hood.at_work:
                found[column] = min(hood.flow, found.get(column, hood.flow))
    return found
