"""What a search for routes found, in words."""

from collections.abc import Iterator

from purvel.review.ducts.routes import Route, Routing
from purvel.review.figures import Figures


def said(routing: Routing, say: Figures) -> Iterator[str]:
    """What was found, a line each."""
    if not routing.routes:
        yield routing.why_none or "Looking for routes …"
        return
    for number, route in enumerate(routing.routes, start=1):
        yield f"{number}. {_route(route, say)}"
    left_out = routing.routes[0].left_out
    if left_out:
        yield f"Left out: {'; '.join(left_out)}."
    yield (
        "Gates sit near the main, a hook or a cord works them. Set a gate with its slot up or level, so that chips do not"
        " fill it."
    )
    yield "Our rough prices. Trace pipe, wire and water in walls and ceiling before you drill or hang."


def _route(route: Route, say: Figures) -> str:
    holds = (
        "all flows and speeds hold"
        if route.holds
        else f"{route.share:.0%} of what is asked where it is tightest, see “Sizes”"
    )
    return (
        f"{route.name}, middle at {say.length(route.height)}: about {route.cost:,.0f} USD; {say.length(route.pipe)} of pipe, {say.length(route.hose)} of hose,"
        f" {route.elbows} elbows, {route.branches} branches; {holds}."
        + (f" Not kept: {'; '.join(route.given_up)}." if route.given_up else "")
    )
