"""The panel of findings: what did not change stays, and the keyboard goes through it as it lies."""

import threading
from collections.abc import Iterator
from dataclasses import replace

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from purvel.app import reviews
from purvel.app.widgets.cards import GradeMark, RemedyButton
from purvel.app.widgets.unbroken import unbroken
from purvel.review import Answers, Finding, Grade, Remedy, Review, remedies_for
from purvel.shop.edits import change, move_thing, put, remove
from tests.app.conftest import Bench


def test_cards_stay_for_the_same_question_and_those_left_over_tell_others(bench: Bench) -> None:
    bench.demo("garage", "place")
    panel = bench.window.findings
    before = {card.finding.key: card for card in panel.cards}
    drill = bench.workspace.shop.thing("drill-press")
    assert drill is not None
    told = {key: card.finding for key, card in before.items()}
    bench.workspace.apply(lambda shop: remove(shop, "drill-press"), "Take away")
    bench.settle()
    fewer = {card.finding.key: card for card in panel.cards}
    assert fewer.keys() < before.keys() and all(before[key] is card for key, card in fewer.items())
    bench.workspace.apply(
        lambda shop: move_thing(put(shop, drill), "drill-press", drill.x + 0.6, drill.y), "Move"
    )
    bench.settle()
    after = panel.cards
    assert tuple(card.finding for card in after) == bench.window.reviews.latest.of("place")
    assert all(fewer.get(card.finding.key, card) is card for card in after)
    changed = [card for card in after if told.get(card.finding.key) != card.finding]
    assert 0 < len(changed) < len(after)
    for card in after:
        mark = card.findChild(GradeMark)
        assert mark.grade == card.finding.grade and mark.accessibleName() == card.finding.grade.word
        assert card.finding.sentence in card.sentence.accessibleName() and card.isVisible()
    places = [card.y() for card in after]
    assert places == sorted(places) and len(set(places)) == len(places)


def test_all_are_made_anew_for_another_look(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    before = list(bench.window.findings.cards)
    bench.window.theme.switch_paper()
    bench.settle()
    assert not set(before) & set(bench.window.findings.cards)


def test_tab_goes_through_the_cards_as_they_lie(bench: Bench) -> None:
    bench.demo("spare-room", "place")
    panel = bench.window.findings
    bench.workspace.apply(lambda shop: change(shop, "workbench", height=0.95), "Raise")
    bench.settle()
    bench.workspace.apply(lambda shop: replace(shop, hand_room=0.9), "More room")
    bench.settle()
    opened = panel.cards[1]
    panel.reveal(opened.finding)
    bench.bot.waitUntil(lambda: not bench.window.reviews.is_trying, timeout=60_000)
    bench.settle()
    QApplication.processEvents()
    controls = [part for card in panel.cards for part in card.controls]
    assert any(isinstance(part, RemedyButton) for part in controls)
    controls[0].setFocus()
    for part in controls[1:]:
        held = QApplication.focusWidget()
        QTest.keyClick(held, Qt.Key.Key_Tab)
        assert QApplication.focusWidget() is part


def test_what_helps_stays_when_a_long_search_ends(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    panel, go_on, own = bench.window.findings, threading.Event(), reviews.whole_review

    def halting(first: Review) -> Review:
        go_on.wait(20)
        return own(first)

    monkeypatch.setattr(reviews, "whole_review", halting)
    bench.demo("spare-room", "place")
    bench.workspace.apply(lambda shop: change(shop, "workbench", height=0.95), "Raise")
    bench.settle()
    first = bench.window.reviews.latest
    opened = next(card for card in panel.cards if card.finding.rule == "lane")
    assert not first.is_whole and opened.details is None
    panel.reveal(opened.finding)
    asked = next(card for card in panel.cards if card.finding.key == opened.finding.key)
    go_on.set()
    bench.settle(whole=True)
    assert bench.window.reviews.latest.of("place") != first.of("place")
    bench.bot.waitUntil(lambda: not panel.is_waiting, timeout=60_000)
    assert asked in panel.cards and asked.findChildren(RemedyButton)
    bench.workspace.apply(lambda shop: change(shop, "workbench", height=0.9), "Lower")
    bench.settle()
    assert asked not in panel.cards  # its cures were of another shop


def test_a_card_of_the_same_grade_says_the_new_sentence(bench: Bench) -> None:
    bench.demo("garage", "place")
    panel = bench.window.findings
    before = {card.finding.key: (card, card.finding) for card in panel.cards}
    saw = bench.workspace.shop.thing("table-saw")
    assert saw is not None
    bench.workspace.apply(lambda shop: move_thing(shop, "table-saw", saw.x, saw.y + 0.05), "Move")
    bench.settle()
    retold = 0
    for card in panel.cards:
        was, told = before.get(card.finding.key, (None, card.finding))
        assert card.finding.sentence in card.sentence.accessibleName()
        assert card.sentence.label.text() == unbroken(card.finding.sentence)
        if told.grade == card.finding.grade and told.sentence != card.finding.sentence:
            assert card is was
            retold += 1
    assert retold


def test_a_remedy_is_shown_as_soon_as_it_is_found(bench: Bench, monkeypatch: pytest.MonkeyPatch) -> None:
    bench.demo("spare-room", "place")
    panel, go_on = bench.window.findings, threading.Event()
    own = reviews.remedies_as_found

    def halting(finding: Finding, answers: Answers) -> Iterator[Remedy]:
        for remedy in own(finding, answers):
            yield remedy
            go_on.wait(20)

    monkeypatch.setattr(reviews, "remedies_as_found", halting)
    helped = next(one for one in bench.window.reviews.latest.of("place") if len(remedies(bench, one)) > 1)
    panel.reveal(helped)

    def shown() -> list[str]:
        return [button.tried.label for button in panel.findChildren(RemedyButton) if button.isVisible()]

    try:
        bench.bot.waitUntil(lambda: len(shown()) == 1, timeout=20_000)
        assert panel.is_waiting  # and there may be more
    finally:
        go_on.set()
    wanted = [one.label for one in remedies(bench, helped)]
    assert len(wanted) > 1
    # where the long searches end just now they are asked for once more
    bench.bot.waitUntil(lambda: not panel.is_waiting and shown() == wanted, timeout=60_000)
    opened = next(card for card in panel.cards if card.details is not None)
    assert not any(
        label.text().startswith("Trying") and label.isVisible() for label in opened.findChildren(QLabel)
    )


def test_what_is_easier_comes_above_what_was_found_before_it(
    bench: Bench, monkeypatch: pytest.MonkeyPatch
) -> None:
    bench.demo("spare-room", "place")
    slow, quick, unknown = (
        Remedy(label, f"{label} then.", lambda shop: shop, minutes)
        for label, minutes in (("Slow", 9.0), ("Quick", 1.0), ("Unknown", None))
    )
    monkeypatch.setattr(reviews, "remedies_as_found", lambda *_: iter((unknown, slow, quick)))
    panel = bench.window.findings
    panel.reveal(next(one for one in bench.window.reviews.latest.of("place") if one.grade < Grade.GOOD))
    bench.bot.waitUntil(lambda: not panel.is_waiting and len(panel.findChildren(RemedyButton)) == 3)
    card = next(card for card in panel.cards if card.details is not None)
    by_key = [one.tried.label for one in card.controls if isinstance(one, RemedyButton)]
    by_eye = sorted(card.findChildren(RemedyButton), key=lambda button: button.y())
    assert by_key == [one.tried.label for one in by_eye] == ["Quick", "Slow", "Unknown"]
    outcomes = sorted(
        (label.y(), label.text()) for label in card.findChildren(QLabel) if "then." in label.text()
    )
    assert [text for _, text in outcomes] == ["Quick then.", "Slow then.", "Unknown then."]


def remedies(bench: Bench, finding: Finding) -> tuple[Remedy, ...]:
    return remedies_for(finding, bench.window.reviews.latest.answers)
