"""When Python looks for garbage: not while it would only cost time."""

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def not_looked_for() -> Iterator[None]:
    """No garbage is looked for meanwhile; after that as before."""
    was_looked_for = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_looked_for:
            gc.enable()
