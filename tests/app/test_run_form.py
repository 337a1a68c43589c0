"""The form of a run: what is entered there is what the network is solved with."""

import pytest
from PySide6.QtWidgets import QCheckBox, QPushButton

from purvel.app.widgets.fields import ChoiceField
from purvel.catalogue import filter_grades, filter_states, materials
from purvel.review.ducts.answers import DuctAnswers
from purvel.shop import Run, Source
from tests.app.conftest import Bench, choose, enter, field


def test_a_runs_own_loss_and_roughness_are_solved_with(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    bench.workspace.pick("saw-drop")
    bench.settle()

    def solved() -> tuple[float, float, float]:
        (network,) = bench.window.reviews.answers().of(DuctAnswers).networks
        (number,) = (i for i, one in enumerate(network.layout.segments) if one.run == "saw-drop")
        one = next(flows for flows in network.sets if "saw-gate" in flows.open_gates)
        segment = network.layout.segments[number]
        return segment.roughness, one.segments[number].fittings, one.segments[number].flow

    roughness, fittings, flow = solved()
    made_of = materials()["spiral"].roughness
    assert roughness == made_of
    rough = field(bench, "Roughness of its wall")
    assert rough.line.text() == "0.09 mm"
    enter(rough, "1.5")
    enter(field(bench, "Loss of what else is in it, on its velocity pressure"), "2.5")
    bench.settle()
    now = solved()
    assert now[0] == pytest.approx(0.0015) and now[1] == pytest.approx(fittings + 2.5) and now[2] < flow
    enter(rough, "-1")  # refused
    assert bench.workspace.shop.ducts.runs[0].roughness is None
    material = next(
        one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == "Material"
    )
    choose(material, "snap-lock-26")
    bench.settle()
    assert solved()[0] == materials()["snap-lock-26"].roughness  # the wall's own goes with its material
    bench.workspace.undo()
    assert next(run for run in bench.workspace.shop.ducts.runs if run.id == "saw-drop").roughness == 0.0015


def test_fittings_sag_and_a_gates_own_gap_are_set_in_the_form(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    bench.workspace.pick("planer-hose")
    bench.settle()

    def run() -> Run:
        return next(one for one in bench.workspace.shop.ducts.runs if one.id == "planer-hose")

    add = next(
        one for one in bench.window.findChildren(ChoiceField) if one.accessibleName().startswith("Something")
    )
    choose(add, "coupling")
    bench.settle()
    assert run().inline == ("coupling",)
    enter(field(bench, "How far it sags between its hangers"), "4 in")
    assert run().sag == pytest.approx(0.1016)
    out = next(
        one
        for one in bench.window.findChildren(QPushButton)
        if one.accessibleName() == "Take out Quick coupling, 1"
    )
    out.click()
    bench.settle()
    assert run().inline == ()
    bench.workspace.pick("saw-drop")
    bench.settle()
    gap = field(bench, "Gap all round when it is shut")
    assert gap.line.text() == "0.2 mm"
    enter(gap, "1.5")
    (gate,) = next(one for one in bench.workspace.shop.ducts.runs if one.id == "saw-drop").gates
    assert gate.gap == pytest.approx(0.0015)
    enter(gap, "0.2")
    (gate,) = next(one for one in bench.workspace.shop.ducts.runs if one.id == "saw-drop").gates
    assert gate.gap is None  # as all gates here


def test_a_bucket_takes_ballast_and_a_cyclone_does_not(bench: Bench) -> None:
    bench.demo("single-garage", "ducts")
    bench.workspace.pick("vac")
    bench.settle()
    kind = next(
        one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == "Kind of separator"
    )
    choose(kind, "bucket")
    bench.settle()
    enter(field(bench, "Ballast in its foot"), "12 kg")
    bench.settle()
    vac = bench.workspace.shop.thing("vac")
    assert vac is not None and vac.source is not None and vac.source.separator is not None
    assert vac.source.separator.ballast == pytest.approx(12.0) and vac.source.separator.kind == "bucket"
    kind = next(
        one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == "Kind of separator"
    )
    choose(kind, "cyclone")
    bench.settle()
    with pytest.raises(IndexError):
        field(bench, "Ballast in its foot")


def test_own_readings_are_entered_and_forgotten(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    bench.workspace.pick("collector")
    bench.settle()
    enter(field(bench, "Suction you read with its inlet blocked"), "8 in. w.g.")
    enter(field(bench, "Flow you read with its inlet open"), "900 cfm")
    bench.settle()
    thing = bench.workspace.shop.thing("collector")
    assert thing is not None and thing.source is not None
    assert thing.source.sealed == pytest.approx(8 * 249.08, rel=1e-3)
    assert thing.source.open_flow == pytest.approx(900 * 0.3048**3 / 60, rel=1e-3)
    forget = next(
        one for one in bench.window.findChildren(QPushButton) if one.text() == "Forget own readings"
    )
    forget.click()
    bench.settle()
    thing = bench.workspace.shop.thing("collector")
    assert thing is not None and thing.source is not None
    assert thing.source.sealed is None and thing.source.open_flow is None


def test_filters_are_set_by_medium_and_state(bench: Bench) -> None:
    bench.demo("garage-mended", "ducts")
    bench.workspace.pick("collector")
    bench.settle()

    def choice(name: str) -> ChoiceField:
        return next(one for one in bench.window.findChildren(ChoiceField) if one.accessibleName() == name)

    def source() -> Source:
        found = bench.workspace.shop.thing("collector").source
        assert found is not None
        return found

    def tick() -> QCheckBox:
        boxes = bench.window.findChildren(QCheckBox)
        return next(one for one in boxes if one.text() == "A finer filter behind it")

    choose(choice("State of the filter"), "clogged")
    choose(choice("What filter is made of"), "felt")
    bench.settle()
    assert source().filter.medium == "felt" and source().filter.resistance == filter_states("felt")["clogged"]
    tick().click()
    bench.settle()
    assert source().behind.medium == "glass" and source().behind.area == source().filter.area
    assert source().efficiency == filter_grades()["HEPA"]
    choose(choice("State of the filter behind"), "clean")
    assert source().behind.resistance == filter_states("glass")["clean"]
    bench.settle()
    tick().click()
    assert source().behind is None
