"""A field for a few numbers in a row, one for each size of dust."""

from purvel.app.widgets.fields import TextField
from purvel.quantities.numbers import read_number


def numbers_field(
    name: str, unit: str, count: int, *, least: float, most: float
) -> TextField[tuple[float, ...]]:
    """A field for `count` numbers with spaces or semicolons between them, and a unit behind the last."""

    def read(text: str) -> tuple[float, ...]:
        words = text.strip().removesuffix(unit).replace(";", " ").split()
        example = " ".join(["1"] * count)
        try:
            values = tuple(read_number(word) for word in words)
        except ValueError as exc:
            raise ValueError(
                f"“{text.strip()}” is not {count} numbers. Write for example {example} {unit}."
            ) from exc
        if len(values) != count:
            raise ValueError(f"{name}: {count} numbers, fine to coarse, such as {example} {unit}.")
        if not all(least <= value <= most for value in values):
            raise ValueError(f"{name}: each from {least:g} to {most:g} {unit}.")
        return values

    def write(values: tuple[float, ...]) -> str:
        return f"{' '.join(f'{round(value, 2):g}' for value in values)} {unit}".strip()

    return TextField(name, read, write)
