"""Demo shops of our own invention, made by tools/make_demos.py."""

from importlib.resources import files

NAMES = (
    "garage",
    "garage-mended",
    "spare-room",
    "spare-room-mended",
    "single-garage",
    "single-garage-mended",
)


def demo_bytes(name: str) -> bytes:
    """The .purvel file of a demo. Raises KeyError for a name that is not one of NAMES."""
    if name not in NAMES:
        raise KeyError(name)
    return files("purvel.demo").joinpath(f"{name}.purvel").read_bytes()
