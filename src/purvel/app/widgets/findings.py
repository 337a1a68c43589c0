"""The findings of a stage as cards, worst first."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from itertools import pairwise

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from purvel.app.reviews import Reviews, Tried
from purvel.app.theme import Theme
from purvel.app.view import View
from purvel.app.widgets.cards import FindingCard
from purvel.app.widgets.flow import lay_out_now, let_go
from purvel.app.widgets.words import Words
from purvel.app.workspace import Workspace
from purvel.review import Finding, Remedy, Review
from purvel.review.finding import Key
from purvel.shop import Shop


class FindingsPanel(QWidget):
    """All cards of a stage.

    Opening one picks its place on the plan, shows its choice of gates, and asks for its remedies.
    """

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__()
        self.workspace, self.reviews, self.theme = workspace, reviews, theme
        self.area: QScrollArea | None = None  # what the cards are scrolled in
        self.cards: list[FindingCard] = []  # those on the screen, the worst first
        self._none: Words | None = None  # says that there are none
        self._shown: tuple[object, ...] = ()
        self._open_key: Key | None = None  # of the card that is open on the screen
        self._shop: Shop | None = None  # what the cards speak of
        self._stage = ""
        self._look: tuple[object, ...] = ()  # what the cards were made for: stage, palette, size of text
        self._sought = 0  # where the list was scrolled to, to show the open card
        self.box = QVBoxLayout(self)
        self.box.setContentsMargins(6, 4, 6, 6)
        self.box.setSpacing(6)
        self.box.addStretch(1)
        reviews.tried.connect(self._show_remedies)

    def show_findings(self, review: Review, view: View) -> None:
        """Makes those cards anew in which anything changed; the list is still while a remedy is shown."""
        if self.workspace.is_previewing:
            return
        findings = review.of(view.stage)
        shown = (*findings, view.stage, view.open_finding, self.theme.palette, self.theme.pixels)
        if shown == self._shown:
            if self.is_waiting and not self.reviews.is_trying:  # a change that changed no finding stopped it
                self.reviews.ask_remedies(next(card.finding for card in self.cards if card.is_waiting))
            return
        self._shown = shown
        scrolled = self._scrolled() if view.stage == self._stage else 0
        self._set_out(findings, view, is_same_shop=review.shop is self._shop)
        self._shop = review.shop
        self._settle(scrolled, seek=view.open_finding != self._open_key)
        self._open_key = view.open_finding

    def _set_out(self, findings: Sequence[Finding], view: View, *, is_same_shop: bool) -> None:
        """One card under the other; those of the same question stay, but for an open one that says more than
        before or whose cures are of the shop as it was, and of those that are left over others are made.
        """
        look = (view.stage, self.theme.palette, self.theme.pixels)
        still = findings if is_same_shop else ()
        stay = {
            card.finding.key: card
            for card in self.cards
            if look == self._look
            and (card.details is not None) == (card.finding.key == view.open_finding)
            and (card.details is None or card.finding in still)
        }
        focus = self._focused_key()
        self._stage, self._look = view.stage, look
        were, kept = self.cards, list[FindingCard | None]()
        for finding in findings:
            card = stay.pop(finding.key, None)
            if card is not None:
                card.tell(finding)
            kept.append(card)
        if were == kept and findings:
            return
        spare = [card for card in stay.values() if card.finding.key != focus]
        kept = [
            card
            if card is not None or finding.key in (view.open_finding, focus)
            else self._told(spare, finding)
            for finding, card in zip(findings, kept)
        ]
        self._take_away(kept)
        if not findings:
            self._say_none()
        for place, (finding, card) in enumerate(zip(findings, kept)):
            if card is None:
                self.cards.insert(place, self._add_card(place, finding, view, focus))
            elif self.cards[place] is not card:
                self.cards.remove(card)
                self.cards.insert(place, card)
                self.box.removeWidget(card)
                self.box.insertWidget(place, card)
        self._order()

    def _told(self, spare: list[FindingCard], finding: Finding) -> FindingCard | None:
        """A spare card, of the same grade if there is one, that tells a finding."""
        card = next(
            (card for card in spare if card.finding.grade == finding.grade), spare[0] if spare else None
        )
        if card is not None:
            spare.remove(card)
            card.tell(finding)
        return card

    def _take_away(self, kept: Sequence[FindingCard | None]) -> None:
        """All but the cards that stay."""
        stay = set(kept)
        gone = [card for card in self.cards if card not in stay]
        self.cards = [card for card in self.cards if card in stay]
        for widget in (*gone, self._none):
            if widget is not None:
                self.box.removeWidget(widget)
                let_go(widget)
        self._none = None

    def _order(self) -> None:
        """The keyboard goes through the cards as they lie, whichever was made first."""
        parts = [part for card in self.cards for part in card.controls]
        for part, after in pairwise(parts):
            QWidget.setTabOrder(part, after)

    def _say_none(self) -> None:
        self._none = Words("Findings appear here as soon as there is something to check.")
        self._none.setObjectName("small")
        self._none.setWordWrap(True)
        self.box.insertWidget(0, self._none)

    def _add_card(self, place: int, finding: Finding, view: View, focus: Key | None) -> FindingCard:
        card = FindingCard(finding, self.theme.palette, self.theme.pixels)
        card.opened.connect(self._toggle)
        self.box.insertWidget(place, card)
        if finding.key == view.open_finding:
            card.open()
            self.reviews.ask_remedies(finding)
        if finding.key == focus:
            card.sentence.setFocus()
        return card

    def _focused_key(self) -> Key | None:
        return next((card.finding.key for card in self.cards if card.sentence.hasFocus()), None)

    def reveal(self, finding: Finding) -> None:
        """Opens a finding, and shows the choice of gates that it speaks of."""
        changes: dict[str, object] = {"open_finding": finding.key}
        if finding.where.gate_set is not None:
            changes["gate_set"] = finding.where.gate_set
        self.workspace.view.look_at(**changes)

    def _toggle(self, finding: Finding) -> None:
        if self.workspace.view.now.open_finding == finding.key:
            self.workspace.view.look_at(open_finding=None)
            return
        if finding.where.items:
            self.workspace.pick(finding.where.items[0])
        self.reveal(finding)

    @property
    def opened(self) -> Finding | None:
        """The finding whose card is open."""
        key = self.workspace.view.now.open_finding
        return next((card.finding for card in self.cards if card.finding.key == key), None)

    @property
    def is_waiting(self) -> bool:
        """Whether remedies are being tried for a card."""
        return any(card.is_waiting for card in self.cards)

    def _show_remedies(self, tried: Tried) -> None:
        key, remedies, is_all, none = tried
        card = next((card for card in self.cards if card.finding.key == key), None)
        if card is None or card.details is None:
            return
        for button in card.show_remedies(remedies, is_all=is_all, none=none):
            button.hovered.connect(self._preview)
            button.clicked.connect(partial(self._do, button.tried))
        self._order()
        # who has scrolled on meanwhile is left where they are
        self._settle(self._scrolled(), seek=self._scrolled() == self._sought)

    def _preview(self, remedy: Remedy | None) -> None:
        self.workspace.preview(None if remedy is None else remedy.edit)

    def _do(self, remedy: Remedy, _: bool = False) -> None:
        self.workspace.preview(None)
        self.workspace.apply(remedy.edit, remedy.label)

    def _scrolled(self) -> int:
        return 0 if self.area is None else self.area.verticalScrollBar().value()

    def _settle(self, scrolled: int, *, seek: bool) -> None:
        """Lays the cards out now, so that the list stays where it was; seeks the open card once wrapped words
        have their height too.
        """
        if self.area is None:
            return
        hidden = [card for card in self.cards if not card.isVisibleTo(self)]
        opened = [card for card in self.cards if card.details is not None]
        lay_out_now(self, *dict.fromkeys([*hidden, *opened]))
        self.area.verticalScrollBar().setValue(scrolled)
        if seek:
            QTimer.singleShot(0, self, self._show_open)

    def _show_open(self) -> None:
        """Scrolls no farther than it takes to see the open card, its top first."""
        key = self.workspace.view.now.open_finding
        card = next((card for card in self.cards if card.finding.key == key), None)
        if card is not None and self.area is not None:
            self.area.ensureWidgetVisible(card, 0, 6)
            bar = self.area.verticalScrollBar()
            bar.setValue(min(bar.value(), max(0, card.y() - 6)))
        self._sought = self._scrolled()
