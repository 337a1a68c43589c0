"""The rows of a thing's form that set it out on the floor, and take in where it was found standing."""

from __future__ import annotations

from dataclasses import replace
from datetime import date
from functools import partial

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import number_field
from purvel.review.place.built_rules import said_of
from purvel.shop import AsBuilt, FromWall, Room, Thing
from purvel.shop.parts import name_of
from purvel.space.setout import SetOut, built, set_out
from purvel.space.shell import Shell, shell


def set_out_rows(form: Form) -> None:
    """What to measure on the floor, and fields for what was measured."""
    mark = _mark(form, form.now)
    if mark is None:
        return
    form.live(partial(_told, form))
    for number, measure in enumerate(mark.measures):
        form.row(
            f"Found from {measure.wall}",
            form.length(f"Found from wall {measure.wall}", 0.0, 100.0),
            partial(_shown, form, number),
            partial(_read, form, number),
        )
    turned = number_field("Found turned", "°", least=-360, most=360)
    form.row("Found turned", turned, _angle, partial(_read_angle, form))
    if form.now.built:
        form.live(partial(_found, form))
        form.button("Accept as built", lambda: accept(form))
        form.button("Forget what was read", lambda: form.put("Forget readings", built=()))


class _Last:
    """What was asked last: the shell of a room, and the mark of a thing in it; asked for several times each
    time that a form is shown.
    """

    def __init__(self) -> None:
        self.room, self.shell = Room(), shell(Room())
        self.thing: Thing | None = None
        self.mark: SetOut | None = None

    def shell_of(self, room: Room) -> Shell:
        if room is not self.room:
            self.room, self.shell, self.thing = room, shell(room), None
        return self.shell

    def mark_of(self, thing: Thing, room: Room) -> SetOut | None:
        walls = self.shell_of(room)
        if thing is not self.thing:
            self.thing, self.mark = thing, set_out(thing, walls)
        return self.mark


_LAST = _Last()


def _shell(form: Form) -> Shell:
    return _LAST.shell_of(form.workspace.base.room)


def _mark(form: Form, thing: Thing) -> SetOut | None:
    """What sets a thing out; while it is in the hand, what did before."""
    if form.workspace.in_hand and _LAST.thing is not None and _LAST.thing.id == thing.id:
        return _LAST.mark
    return _LAST.mark_of(thing, form.workspace.base.room)


def _told(form: Form, thing: Thing) -> str:
    """The two distances to mark, and one that checks them."""
    mark, say = _mark(form, thing), form.say
    if mark is None:
        return "It stands outside the room: there is nothing to set it out from."
    words = " and ".join(f"{say.length(one.distance)} from wall {one.wall}" for one in mark.measures)
    check = "".join(
        f" To check: {say.length(one.distance)} straight to {name_of(form.workspace.shop, one.item)}."
        for one in mark.checks[:1]
    )
    return f"Set out: its {mark.corner} corner lies {words}.{check}"


def _found(form: Form, thing: Thing) -> str:
    if not thing.built:
        return ""
    found = built(thing, thing.built[-1], _shell(form))
    return "" if found is None else f"Read on {thing.built[-1].day}: it {said_of(found, form.say)}."


def accept(form: Form) -> None:
    """Draws the thing where it was found."""
    thing = form.now
    found = built(thing, thing.built[-1], _shell(form))
    if found is not None:
        form.put("Accept as built", x=found.x, y=found.y, angle=found.angle)


def set_out_shape(form: Form, thing: Thing) -> object:
    """What the rows depend on."""
    mark = _mark(form, thing)
    return bool(thing.built), mark and (mark.corner, tuple(one.wall for one in mark.measures))


def _last(thing: Thing) -> AsBuilt | None:
    return thing.built[-1] if thing.built else None


def _shown(form: Form, number: int, thing: Thing) -> float:
    """What was read last from the wall; as drawn where nothing was."""
    mark = _mark(form, thing)
    if mark is None or number >= len(mark.measures):
        return 0.0
    wall, last = mark.measures[number].wall, _last(thing)
    read = (
        [one.distance for one in last.distances if one.wall == wall]
        if last and last.corner == mark.corner
        else []
    )
    return read[0] if read else mark.measures[number].distance


def _angle(thing: Thing) -> float:
    last = _last(thing)
    return thing.angle if last is None or last.angle is None else last.angle


def _today(thing: Thing, mark: SetOut) -> AsBuilt:
    """The reading of today, begun anew where there is none from this corner."""
    day, last = date.today().isoformat(), _last(thing)
    is_now = last is not None and last.day == day and last.corner == mark.corner
    return last if last is not None and is_now else AsBuilt(day=day, corner=mark.corner)


def _read(form: Form, number: int, distance: float) -> None:
    mark = _mark(form, form.now)
    if mark is None or number >= len(mark.measures):
        return
    wall, reading = mark.measures[number].wall, _today(form.now, mark)
    kept = tuple(one for one in reading.distances if one.wall != wall)
    _put(form, replace(reading, distances=(*kept, FromWall(wall=wall, distance=distance))[-2:]))


def _read_angle(form: Form, angle: float) -> None:
    mark = _mark(form, form.now)
    if mark is not None:
        _put(form, replace(_today(form.now, mark), angle=angle))


def _put(form: Form, reading: AsBuilt) -> None:
    """The reading as the last, instead of an earlier one of the same day and corner."""
    before = [one for one in form.now.built if (one.day, one.corner) != (reading.day, reading.corner)]
    form.put("Found standing", built=(*before, reading)[-100:])
