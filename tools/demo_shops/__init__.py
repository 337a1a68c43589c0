"""The demo shops in plain sources."""

from demo_shops.garage import garage
from demo_shops.garage_mended import garage_mended
from demo_shops.spare_room import spare_room, spare_room_mended

DEMOS = {
    "garage": garage,
    "garage-mended": garage_mended,
    "spare-room": spare_room,
    "spare-room-mended": spare_room_mended,
}
