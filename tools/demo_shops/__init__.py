"""The demo shops in plain sources."""

from collections.abc import Callable

from demo_shops.garage import garage
from demo_shops.garage_mended import garage_mended
from demo_shops.logs import CONFUSED, FAIR, SHORT, evening
from demo_shops.people import geared, lived_in
from demo_shops.single_garage import single_garage
from demo_shops.single_garage_mended import single_garage_mended
from demo_shops.spare_room import spare_room, spare_room_mended
from purvel.files import Document

DEMOS: dict[str, Callable[[], Document]] = {
    "garage": lambda: evening(garage(), "saturday.csv", CONFUSED, closed=1.2),
    "garage-mended": lambda: evening(geared(garage_mended()), "sunday.csv", FAIR, closed=1.2),
    "spare-room": lambda: evening(lived_in(spare_room(), shut=False), "evening.csv", SHORT, closed=0.8),
    "spare-room-mended": lambda: evening(
        geared(lived_in(spare_room_mended(), shut=True)), "evening.csv", FAIR, closed=0.8
    ),
    "single-garage": lambda: evening(single_garage(), "evening.csv", CONFUSED, closed=0.9),
    "single-garage-mended": lambda: evening(geared(single_garage_mended()), "morning.csv", FAIR, closed=0.9),
}
