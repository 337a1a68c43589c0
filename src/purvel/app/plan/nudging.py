"""What the arrow keys do to what is picked."""

from __future__ import annotations

from purvel.app.grouped import group_of, is_held, shift
from purvel.app.plan import drag_handles
from purvel.app.workspace import Workspace
from purvel.review import Answers
from purvel.review.room.answers import RoomAnswers
from purvel.shop import Fixture, Opening, Thing
from purvel.shop.edits import move_thing
from purvel.shop.parts import item_of


def nudge(workspace: Workspace, answers: Answers, dx: int, dy: int, *, large: bool) -> None:
    """Moves what is picked by a step, or by ten, all of it that is not fixed."""
    shop = workspace.shop
    step = drag_handles.step_of(shop.units) * (10 if large else 1)
    item = item_of(shop, workspace.picked)
    group = [one for one in group_of(workspace) if not one.settled]
    if group:
        by = dx * step, dy * step
        workspace.apply(lambda s: shift(s, group, *by), "Nudge together", "nudge together")
    elif isinstance(item, Thing):
        _nudge_thing(workspace, item, dx * step, dy * step)
    else:
        _nudge_fixed(workspace, answers, item, dx * step, dy * step)


def _nudge_thing(workspace: Workspace, item: Thing, dx: float, dy: float) -> None:
    """By the step alone: nudging does not snap."""
    if is_held(workspace, item):
        return
    x, y = item.x + dx, item.y + dy
    workspace.apply(lambda s: move_thing(s, item.id, x, y), f"Nudge {item.name}", f"nudge {item.id}")


def _nudge_fixed(workspace: Workspace, answers: Answers, item: object, dx: float, dy: float) -> None:
    """What cannot move, and doors and windows, as a drag would."""
    sides = answers.of(RoomAnswers).sides
    if isinstance(item, Fixture):
        x, y = item.x, item.y
    elif isinstance(item, Opening) and item.wall in sides:
        x, y = sides[item.wall].at(item.offset + item.width / 2)
    else:
        return
    handle = drag_handles.handle_for(answers, item.id, x, y)
    if handle is not None:
        to = x + dx, y + dy
        workspace.apply(lambda s: handle.place(s, *to), handle.label, f"nudge {handle.item}")
