"""Who works in a demo shop, and who lives next door."""

from dataclasses import replace

from purvel.shop import NextRoom, Passage, Person, Shop, Wearer


def geared(shop: Shop) -> Shop:
    """Whoever works wears a fitted half mask and muffs."""
    wearer = Wearer(fit_tested=True, respirator="half", hearing=27.0)
    return replace(shop, air=replace(shop.air, wearer=wearer))


def lived_in(shop: Shop, *, shut: bool) -> Shop:
    """A flat behind the door, with a child in it for the evening."""
    openings = tuple(replace(one, leads="house") if one.id == "door" else one for one in shop.room.openings)
    flat = NextRoom(id="flat", name="the flat", volume=140.0, changes=0.5)
    door = Passage(
        id="flat-door",
        name="the door to the flat",
        room="flat",
        opening="door",
        open="never" if shut else "always",
    )
    child = Person(id="child", name="The child", room="flat", start=0.0, minutes=120.0)
    air = replace(shop.air, rooms=(flat,), passages=(door,), people=(child,))
    return replace(shop, room=replace(shop.room, openings=openings), air=air)
