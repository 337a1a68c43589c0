"""The rows of an air cleaner in its form: what it moves or is built of, its filter, what it reaches."""

from dataclasses import replace
from typing import Any

from purvel.app.picked.form import Form
from purvel.app.widgets.fields import ChoiceField, number_field, quantity_field
from purvel.catalogue import fans, filter_grades, panels
from purvel.review.air.hanging import built
from purvel.shop import FanBuild, Thing

STATES = (("new", "new"), ("used", "used"), ("loaded", "loaded, to be changed"))


class CleanerForm(Form):
    """A thing that may be an air cleaner."""

    def _cleaner(self) -> None:
        self.row(
            "Cleaner is",
            ChoiceField("What the cleaner is", ((False, "bought"), (True, "built of fans and panels"))),
            lambda one: one.cleaner.build is not None,
            self._build,
        )
        if self.now.cleaner.build is None:
            self._bought()
        else:
            self._parts()
        self.tick_row(
            "Reaches the room as it hangs",
            lambda one: one.cleaner.by_place,
            lambda on: self._put_cleaner(by_place=on),
        )
        if not self.now.cleaner.by_place:
            share = number_field("Share of the room that it reaches", "%", least=10, most=100, decimals=0)
            self.row(
                "Reaches",
                share,
                lambda one: 100 * one.cleaner.mixing,
                lambda value: self._put_cleaner(mixing=value / 100),
            )

    def _bought(self) -> None:
        flow = quantity_field("Flow of the cleaner", self.units.flow, least=0.001, most=5.0)
        self.row("Moves", flow, lambda one: one.cleaner.flow, lambda value: self._put_cleaner(flow=value))
        loaded = number_field(
            "Share of its flow that a loaded filter takes", "%", least=0, most=90, decimals=0
        )
        self.row(
            "Filter takes",
            loaded,
            lambda one: 100 * one.cleaner.loaded,
            lambda value: self._put_cleaner(loaded=value / 100),
        )
        self.note(
            "A loaded filter takes 20 to 40 % of the flow that a hung cleaner is sold with (low confidence)."
        )
        grades = [(efficiency, name) for name, efficiency in filter_grades().items()]
        if self.now.cleaner.efficiency not in dict(grades):
            grades.insert(0, (self.now.cleaner.efficiency, "as it came"))
        self.row(
            "Filter",
            ChoiceField("Filter grade", grades),
            lambda one: one.cleaner.efficiency,
            lambda value: self._put_cleaner(efficiency=value),
        )

    def _parts(self) -> None:
        for word, many, choices, name in (
            ("Fans", "fans", [(key, one.name) for key, one in fans().items()], "fan"),
            ("Panels", "panels", [(key, one.name) for key, one in panels().items()], "panel"),
        ):
            count = number_field(f"How many {many}", "", least=1, most=40, decimals=0)
            self.row(word, count, self._of(many), self._set(many, round))
            self.row("each", ChoiceField(f"Kind of {name}", choices), self._of(name), self._set(name))
        state = ChoiceField("State of the panels", STATES)
        self.row("Panels are", state, self._of("state"), self._set("state"))
        self.live(self._moves)
        self.note(
            "Tape the panels so that nothing gets past them. Keep the fan's cord and motor clear and dust-free."
        )

    def _moves(self, one: Thing) -> str:
        if one.cleaner is None:
            return ""
        return f"Moves about {self.say.flow(one.cleaner.flow)}, by the fan's line against the panels (low confidence)."

    @staticmethod
    def _of(key: str) -> Any:
        return lambda one: getattr(one.cleaner.build or FanBuild(), key)

    def _set(self, key: str, read: Any = None) -> Any:
        def write(value: Any) -> None:
            build = replace(self.now.cleaner.build, **{key: value if read is None else read(value)})
            self.put("Cleaner", cleaner=built(build, self.now.cleaner))

        return write

    def _build(self, is_built: bool) -> None:
        cleaner = self.now.cleaner
        if is_built:
            self.put("Cleaner", cleaner=built(FanBuild(), cleaner))
        else:
            self._put_cleaner(build=None)

    def _put_cleaner(self, **changes: Any) -> None:
        self.put("Cleaner", cleaner=replace(self.now.cleaner, **changes))
