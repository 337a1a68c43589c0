"""The form for a piece of work."""

from typing import Any

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.catalogue import captures, operations, woods
from purvel.review.air.hoods import AS_DRAWN, thrown_times
from purvel.shop import WorkInterval

EDGES = (("not known", "not known"), ("sharp", "sharp, fine work"), ("dull", "dull or clogged"))


class WorkForm(Form):
    """Minutes of one machine and the dust that they throw off."""

    def build(self) -> None:
        self.row(
            "Work",
            ChoiceField("Work", [(key, one.name) for key, one in operations().items()]),
            lambda one: one.operation,
            self._other_work,
        )
        self.field(
            "At",
            ChoiceField(
                "Where",
                [(None, "at no machine"), *((one.id, one.name) for one in self.workspace.shop.things)],
            ),
            "thing",
        )
        self.field("Starts at", number_field("Starts at", "min", least=0, most=1439), "start")
        self.field("Lasts", number_field("Lasts", "min", least=0.1, most=1440), "minutes")
        throws = number_field("Throws off, central", "mg/min", least=0, most=100_000)
        self.row(
            "Throws off",
            throws,
            lambda one: one.emission[1],
            lambda value: self.put("Work", emission=(value / 5, value, value * 5)),
        )
        really = number_field("Really cuts, share of its minutes", "%", least=0, most=100, decimals=0)
        self.row(
            "Of that cutting",
            really,
            lambda one: 100 * one.cutting,
            lambda value: self.put("Work", cutting=value / 100),
        )
        self._what_is_caught()
        self._what_changes_it()
        self.live(self._of_wood)
        if self.now.fine is not None:
            self.button("Go by the estimate again", lambda: self.put("Estimate", fine=None))
        self.note(
            "What is thrown off while it cuts is known to a factor of five either way, what a hood catches to about a"
            " fifth; the share that really cuts is a guess."
        )

    def _what_is_caught(self) -> None:
        one = self.now
        hoods = operations()[one.operation].hoods if one.operation in operations() else ()
        choices = [(AS_DRAWN, "as the ducts are drawn"), *((key, captures()[key].name) for key in hoods)]
        if one.hood not in dict(choices):
            choices.append((one.hood, "figures of its own" if not one.hood else captures()[one.hood].name))
        self.row(
            "Hood", ChoiceField("What the hood catches", choices), lambda one: one.hood, self._other_hood
        )

    def _what_changes_it(self) -> None:
        self._row_that_unmakes("Wood", ChoiceField("Wood that is worked", self._woods()), "wood")
        self._row_that_unmakes("Edge", ChoiceField("How sharp the tool is", EDGES), "edge")
        sets = [(choice.id, choice.name or choice.id) for choice in self.workspace.shop.ducts.gate_sets]
        if sets:
            gates = ChoiceField("Choice of gates", [(None, "that which serves it best"), *sets])
            self.field("Gates", gates, "gate_set")

    def _row_that_unmakes(self, label: str, field: ChoiceField[Any], name: str) -> None:
        """A row for what changes what is given off: PM2.5 that was measured is no more of that."""
        self.row(
            label,
            field,
            lambda one: getattr(one, name),
            lambda key: self.put(label, **{name: key, "fine": None}),
        )

    def _woods(self) -> list[tuple[str, str]]:
        choices = [("", "solid wood, not noted"), *((key, wood.name) for key, wood in woods().items())]
        if self.now.wood not in dict(choices):
            choices.append((self.now.wood, self.now.wood))
        return choices

    @staticmethod
    def _of_wood(one: WorkInterval) -> str:
        """What its wood and its edge change, and what the wood's dust is known for."""
        times, wood = thrown_times(one), woods().get(one.wood)
        said = f"Reckoned with {times:.2g} times what is thrown off. " if times != 1.0 else ""
        if one.measured:
            said += f"What is caught, {one.capture[1]:.0%}, is your measurement. "
        if one.fine is not None:
            said += f"Its PM2.5, {one.fine[1]:.2g} mg/min before the hood, is your measurement. "
        return said + (f"{wood.harms} ({wood.source})" if wood is not None and wood.harms else "")

    def _other_work(self, key: str) -> None:
        one = operations()[key]
        hood = self.now.hood if self.now.hood in one.hoods else AS_DRAWN
        self.put(
            "Work",
            operation=key,
            name=one.name,
            emission=one.band,
            cutting=one.cutting,
            hood=hood,
            measured=False,  # of other work
            fine=None,
        )

    def _other_hood(self, key: str) -> None:
        share = captures()[key].share if key in captures() else self.now.capture
        self.put("Hood", hood=key, capture=share, measured=False)

    def shape(self) -> object:
        return self.now.operation, self.now.hood, self.now.fine is None
