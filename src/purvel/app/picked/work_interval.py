"""The form for a interval of work."""

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field
from purvel.catalogue import captures, operations


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
        self.field("Cuts for", number_field("Cuts for", "min", least=0.1, most=1440), "minutes")
        throws = number_field("Throws off, central", "mg/min", least=0, most=100_000)
        self.row(
            "Throws off",
            throws,
            lambda one: one.emission[1],
            lambda value: self.put("Work", emission=(value / 5, value, value * 5)),
        )
        self.field(
            "Hood",
            ChoiceField("What the hood catches", [(one.share, one.name) for one in captures().values()]),
            "capture",
        )
        self.note(
            "What is thrown off is known to a factor of five either way, what a hood catches to about a"
            " fifth."
        )

    def _other_work(self, key: str) -> None:
        one = operations()[key]
        self.put("Work", operation=key, name=one.name, emission=one.band)
