"""The suction walk, pressure from hood to fan along one run, and beside it the source's curve with the
working points of the gate sets.
"""

from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from purvel.airflow.flows import GateSetFlow, HoodFlow, NetworkResult
from purvel.app.desk import Desk
from purvel.app.plan.draw_ducts import set_named
from purvel.app.plan.sheet import Sheet
from purvel.app.reviewing import ReviewBench
from purvel.app.stages.ducts.curve_chart import CurveChart
from purvel.app.theme import LIGHT, Look
from purvel.app.widgets.fields import ChoiceField, NameBox, text_field
from purvel.app.widgets.flow import refilling
from purvel.app.widgets.panes import Pane, Panes
from purvel.app.widgets.scrolled import scrolled
from purvel.review import Figures
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import GateSet
from purvel.shop.edits import fresh_id, put, remove
from purvel.shop.parts import name_of


class DuctInstrument(QWidget):
    """Gate choices, suction walk, working points."""

    def __init__(self, desk: Desk, bench: ReviewBench) -> None:
        super().__init__()
        self.desk, self.bench = desk, bench
        self.look, self.pixels = LIGHT, 15
        self.chosen: str | None = None
        self.source: str | None = None
        self.choices = QWidget()
        self.choices_box = QVBoxLayout(self.choices)
        self.choices_box.setContentsMargins(8, 4, 8, 4)
        self.choices_box.setSpacing(3)
        self.walk = SuctionWalk(self)
        self.chart = CurveChart(self)
        self.panes = Panes(
            [
                Pane("Gates", scrolled(self.choices), 12.0, 5),
                Pane("Walk", self.walk, 14.0, 10),
                Pane("Curve", self.chart, 11.0, 7),
            ],
            chosen=1,
        )
        box = QVBoxLayout(self)
        box.setContentsMargins(0, 0, 0, 0)
        box.addWidget(self.panes)
        self._shown: tuple[object, ...] = ()
        bench.reviewed.connect(self.refresh)
        desk.picked_changed.connect(self.walk.update)

    def dress(self, look: Look, pixels: int) -> None:
        """Takes on a theme and a text size."""
        self.look, self.pixels = look, pixels
        self.panes.dress(pixels)
        self.chart.dress(look, pixels)
        self._shown = ()
        self.refresh()

    def rebuild(self) -> None:
        """Units changed."""
        self._shown = ()

    @property
    def network(self) -> NetworkResult | None:
        """The system that is looked at."""
        networks = self.bench.latest.answers.of(DuctAnswers).networks
        picked = self.desk.picked
        for network in networks:
            if picked is not None and (
                network.layout.source_thing == picked
                or any(one.run == picked for one in network.layout.segments)
            ):
                self.source = network.layout.source_thing
        return next(
            (one for one in networks if one.layout.source_thing == self.source),
            networks[0] if networks else None,
        )

    def flow(self) -> GateSetFlow | None:
        """The chosen set of the system that is looked at; its first where the choice is not there."""
        network = self.network
        return None if network is None else set_named(network, self.chosen)

    def hood(self) -> HoodFlow | None:
        """The hood whose way is walked: that of the picked machine or run, else the open one with least for
        its need.
        """
        network, flow = self.network, self.flow()
        if network is None or flow is None or not flow.hoods:
            return None
        picked = self.desk.picked
        for one in flow.hoods:
            if picked in (one.thing, network.layout.segments[one.segment].run):
                return one
        opened = [one for one in flow.hoods if one.is_open] or list(flow.hoods)
        return min(opened, key=lambda one: one.flow)

    def refresh(self) -> None:
        """Shows the latest review."""
        network = self.network
        ducts = self.desk.shop.ducts
        now = (
            self.bench.latest,
            ducts.gate_sets,
            ducts.runs,
            self.chosen,
            self.desk.shop.units,
            self.look.name,
            self.pixels,
        )
        if (
            len(now) == len(self._shown)
            and all(a is b or a == b for a, b in zip(now[1:], self._shown[1:]))
            and now[0] is self._shown[0]
        ):
            return
        self._shown = now
        with refilling(self.choices_box):
            self._fill_choices(network)
        self.walk.update()
        self.chart.refresh()

    def _caption(self, text: str) -> None:
        label = QLabel(text)
        label.setObjectName("caption")
        label.setWordWrap(True)
        self.choices_box.addWidget(label)

    def _fill_choices(self, network: NetworkResult | None) -> None:
        if network is None:
            self._caption("Gate choices appear here once a run is drawn.")
            self.choices_box.addStretch(1)
            return
        flow = self.flow()
        assert flow is not None
        self._caption("Gate choice on the plan")
        pick = ChoiceField("Gate choice", [(one.id, self.name_of(one)) for one in network.sets], widest=9)
        pick.show_value(flow.id)
        pick.entered.connect(self.choose)
        self.choices_box.addWidget(pick)
        gates = [
            (gate.id, gate.name or gate.id)
            for run in self.desk.shop.ducts.runs
            for gate in run.gates
            if run.id in {s.run for s in network.layout.segments}
        ]
        if not gates:
            self._caption("No gates: everything is open at once. Use “Set a gate”.")
        for gate_id, name in gates:
            check = NameBox(name)
            check.setChecked(gate_id in flow.open_gates)
            check.toggled.connect(lambda on, g=gate_id: self.toggle(g, on))
            self.choices_box.addWidget(check)
        own = next((one for one in self.desk.shop.ducts.gate_sets if one.id == flow.id), None)
        if own is not None:
            self._caption("Name of this choice")
            name_field = text_field(
                "Name of this gate choice",
                needed=True,
                taken={self.name_of(one) for one in network.sets} - {self.name_of(flow)},
            )
            name_field.show_value(self.name_of(flow))
            name_field.entered.connect(lambda name: self._rename(own, str(name)))
            self.choices_box.addWidget(name_field)
            drop = QPushButton("Forget this choice")
            drop.clicked.connect(
                lambda: self.desk.apply(lambda shop: remove(shop, own.id), "Forget a gate choice")
            )
            self.choices_box.addWidget(drop)
        self.choices_box.addStretch(1)

    def choose(self, name: object) -> None:
        """Another gate set on plan, walk and chart."""
        self.chosen = str(name)
        self.refresh()
        self.desk.previewed.emit()

    def name_of(self, flow: GateSetFlow) -> str:
        """What a choice of gates is called."""
        return self.bench.latest.answers.of(DuctAnswers).choice_name(flow.id)

    def _rename(self, own: GateSet, name: str) -> None:
        self.desk.apply(lambda shop: put(shop, replace(own, name=name)), "Name a gate choice")

    def flip(self, gate: str) -> None:
        """Opens a shut gate of the chosen set and shuts an open one."""
        for network in self.bench.latest.answers.of(DuctAnswers).networks:
            if any(gate in segment.gates for segment in network.layout.segments):
                self.source = network.layout.source_thing
        flow = self.flow()
        if flow is not None:
            self.toggle(gate, gate not in flow.open_gates)

    def toggle(self, gate: str, on: bool) -> None:
        """Opens or shuts a gate in the chosen set; a set that the program made becomes the user's own."""
        flow = self.flow()
        if flow is None:
            return
        shop = self.desk.shop
        opened = set(flow.open_gates) | {gate} if on else set(flow.open_gates) - {gate}
        own = next((one for one in shop.ducts.gate_sets if one.id == flow.id), None)
        if own is not None:
            changed = replace(own, open=tuple(sorted(opened)))
        else:
            names = [one.name for run in shop.ducts.runs for one in run.gates if one.id in opened]
            changed = GateSet(
                id=fresh_id(shop, "set"), name=" + ".join(names) or "All shut", open=tuple(sorted(opened))
            )
        if not opened:
            self.desk.said.emit("With every gate shut nothing flows; keep at least one open in a choice.")
            self._shown = ()
            self.refresh()
            return
        self.chosen = changed.id
        self.desk.apply(lambda s: put(s, changed), "Open gates" if on else "Shut gates")


class SuctionWalk(QWidget):
    """Static suction from the room to the source along one hood's way, with what each piece costs."""

    def __init__(self, instrument: DuctInstrument) -> None:
        super().__init__()
        self.instrument = instrument
        self.setAccessibleName("Suction walk")

    def steps(self) -> list[tuple[str, float]]:
        """What costs pressure on the way, in order: words and loss [Pa]."""
        instrument = self.instrument
        network, flow, hood = instrument.network, instrument.flow(), instrument.hood()
        if network is None or flow is None or hood is None:
            return []
        shop = instrument.desk.shown
        found = [(f"hood of {name_of(shop, hood.thing)}", hood.entry_loss)]
        for index in network.layout.way(hood.segment):
            segment, part = network.layout.segments[index], flow.segments[index]
            run = name_of(shop, segment.run)
            found.append((f"{run}, {'hose' if segment.role == 'hose' else 'pipe'}", part.friction_loss))
            if part.fittings_loss > 0.5:
                found.append(
                    (f"{run}, fittings" if not part.shut_gate else f"{run}, shut gate", part.fittings_loss)
                )
            if abs(part.junction_loss) > 0.5:
                found.append((f"{run}, joint", part.junction_loss))
        for word, loss in (
            ("separator", flow.separator_loss),
            ("filter", flow.filter_loss),
            ("discharge", flow.discharge_loss),
        ):
            if loss > 0.5:
                found.append((word, loss))
        return found

    def paintEvent(self, event: QPaintEvent) -> None:
        instrument = self.instrument
        look, pixels = instrument.look, instrument.pixels
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        sheet = Sheet(painter, look, 1.0, QPointF(0, 0), pixels)
        steps, flow, hood = self.steps(), instrument.flow(), instrument.hood()
        if not steps or flow is None or hood is None:
            painter.setFont(sheet.font(0.9))
            painter.setPen(sheet.pen(look.pencil))
            flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
            painter.drawText(
                self.rect().adjusted(10, 10, -10, -10),
                flags,
                "The suction walk appears here once a run leads from a machine to a source.",
            )
            painter.end()
            return
        say = Figures(instrument.desk.shown.units)
        total = sum(max(0.0, loss) for _, loss in steps)
        name, shut = name_of(instrument.desk.shown, hood.thing), "" if hood.is_open else " (gate shut)"
        figures = f"{say.flow(hood.flow)}, {say.pressure(hood.static_suction)}"
        sheet.heading(
            (f"{name}: {figures} at the hood{shut}", f"{name}: {figures}{shut}", f"{figures}{shut}"),
            look.ink,
            self.width(),
        )
        merged = _merged(steps, most=max(3, int((self.height() - pixels * 2.4) / (pixels * 1.25))))
        widest = max(sheet.measure(word, 0.85) for word, _ in merged)
        left = min(widest + 16, self.width() * 0.56)
        figure = max(sheet.measure(say.pressure(loss), 0.85) for _, loss in merged) + 10
        scale = (self.width() - left - figure - 12) / max(total, 1e-6)
        row = min(pixels * 1.7, (self.height() - pixels * 2.2) / len(merged))
        x, y = left, pixels * 2.0
        painter.setPen(sheet.pen(look.rule, 1))
        painter.drawLine(QPointF(left, y - 2), QPointF(left, y + row * len(merged)))
        for word, loss in merged:
            start = x
            x += loss * scale
            bar = QRectF(min(start, x), y + row * 0.15, max(abs(loss) * scale, 1.5), row * 0.7)
            painter.setPen(sheet.pen(look.wood_edge if loss >= 0 else look.good, 1))
            painter.setBrush(sheet.brush(look.wood if loss >= 0 else look.good, 1.0 if loss >= 0 else 0.4))
            painter.drawRect(bar)
            painter.setPen(sheet.pen(look.pencil, 1, dashes=(2, 2)))
            painter.drawLine(QPointF(x, y + row * 0.5), QPointF(x, y + row * 1.2))
            painter.setFont(sheet.font(0.85))
            painter.setPen(sheet.pen(look.ink))
            painter.drawText(
                QRectF(6, y, left - 12, row),
                int(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter),
                sheet.shortened(word, left - 12, 0.85),
            )
            painter.drawText(
                QRectF(max(start, x) + 6, y, figure + 20, row),
                int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter),
                say.pressure(loss),
            )
            y += row
        painter.end()


def _merged(steps: list[tuple[str, float]], most: int) -> list[tuple[str, float]]:
    """The steps with neighbours put together until they fit, the cheapest first."""
    rows = list(steps)
    while len(rows) > most:
        index = min(range(len(rows) - 1), key=lambda i: abs(rows[i][1]) + abs(rows[i + 1][1]))
        first, second = rows[index], rows[index + 1]
        word = first[0] if abs(first[1]) >= abs(second[1]) else second[0]
        rows[index : index + 2] = [(word if "…" in word else f"{word} …", first[1] + second[1])]
    return rows
