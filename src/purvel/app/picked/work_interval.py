"""The form for a piece of work."""

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.catalogue import captures, operations
from purvel.review.air.hoods import AS_DRAWN


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
        one = self.now
        hoods = operations()[one.operation].hoods if one.operation in operations() else ()
        choices = [(AS_DRAWN, "as the ducts are drawn"), *((key, captures()[key].name) for key in hoods)]
        if one.hood not in dict(choices):
            choices.append((one.hood, "figures of its own" if not one.hood else captures()[one.hood].name))
        self.row(
            "Hood", ChoiceField("What the hood catches", choices), lambda one: one.hood, self._other_hood
        )
        self.note(
            "What is thrown off while it cuts is known to a factor of five either way, what a hood catches to about a"
            " fifth; the share that really cuts is a guess."
        )

    def _other_work(self, key: str) -> None:
        one = operations()[key]
        hood = self.now.hood if self.now.hood in one.hoods else AS_DRAWN
        self.put("Work", operation=key, name=one.name, emission=one.band, cutting=one.cutting, hood=hood)

    def _other_hood(self, key: str) -> None:
        share = captures()[key].share if key in captures() else self.now.capture
        self.put("Hood", hood=key, capture=share)

    def shape(self) -> object:
        return self.now.operation, self.now.hood
