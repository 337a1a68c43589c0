"""What a machine draws: off its plate, or from what its kind usually takes."""

from dataclasses import dataclass

from purvel.catalogue.power import motors, plate_kinds
from purvel.shop import Thing
from purvel.shop.power import Service, Volts

HP = 745.69987  # W, exact: 550 foot-pounds a second
# [-]: efficiency times power factor of a small single-phase motor at full load; 1.5 kW draws 9.5 to 10 A at
# 230 V
MOTOR_YIELD = 0.68
AT_240_FROM = 2.0  # hp: from here on motors are wound for 240 V where there is 120/240 V [trade practice]


@dataclass(frozen=True, slots=True)
class Draw:
    """What a machine draws [A] at which voltage; whether it runs long; whether that is off its plate."""

    volts: Volts
    amps: float
    is_long: bool
    is_plate: bool


def draw(thing: Thing, service: Service) -> Draw | None:
    """What a thing draws; None for what has no plate and no known kind.

    On a plate, amps count as they are; watts are divided by the volts.
    """
    kind = plate_kinds().get(thing.kind)
    is_long = kind is not None and kind.long
    if thing.plate is not None:
        amps = thing.plate.amps
        if amps is None:
            amps = (thing.plate.watts or 0.0) / thing.plate.volts
        return Draw(thing.plate.volts, amps, is_long, True)
    if kind is None:
        return None
    if kind.watts is not None:
        volts: Volts = 230 if service == "230" else 120
        return Draw(volts, kind.watts / volts, is_long, False)
    assert kind.hp is not None
    return _motor(kind.hp, service, is_long=is_long)


def _motor(hp: float, service: Service, *, is_long: bool) -> Draw:
    if service == "230":
        return Draw(230, hp * HP / (230.0 * MOTOR_YIELD), is_long, False)
    volts: Volts = 240 if hp >= AT_240_FROM else 120
    return Draw(volts, full_load(hp, volts), is_long, False)


def full_load(hp: float, volts: Volts) -> float:
    """Full-load current of a single-phase motor [A]: NEC table 430.248, the next size up between its rows; in
    proportion beyond the last.

    At 120 V the column for 115 V, at 230 and 240 V that for 230 V.

    >>> full_load(1.5, 120)
    20.0
    """
    rows = motors()
    row = next((one for one in rows if one.hp >= hp - 1e-3), rows[-1])
    amps = row.at_115 if volts == 120 else row.at_230
    return amps * max(1.0, hp / row.hp)
