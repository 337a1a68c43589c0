"""Reviews off the interface thread: the latest request wins, and a stale answer is known as such until the
new one is there.
"""

from __future__ import annotations

from time import monotonic

from PySide6.QtCore import QObject, QThreadPool, QTimer, Signal

from purvel.app.job import Job
from purvel.app.other_half import OtherHalf
from purvel.app.signals import Event
from purvel.app.workspace import Workspace
from purvel.review import (
    Answers,
    Finding,
    Grade,
    Memory,
    Remedy,
    Review,
    easiest_first,
    remedies_as_found,
    review,
)
from purvel.review.apart import Found
from purvel.review.finding import Key
from purvel.review.going import nothing_small
from purvel.review.reviewing import first_review, whole_review
from purvel.shop import Shop
from purvel.stopping import while_wanted

SEARCH_AFTER = 250  # ms of rest until long searches are begun
OTHERS_AFTER = 600  # ms of rest until the other scenes are reviewed
REST = 120  # ms: requests nearer to each other than this come from a hand that moves

_Wanted = tuple[int, Shop, str | None]
"""A request for a review: its serial, the document's shop and the scene."""
Tried = tuple[Key, tuple[Remedy, ...], bool, str]
"""A finding's key, the remedies that were found so far, whether those are all, and what to say if there are
none.
"""


class Reviews(QObject):
    """Keeps `latest` in step with the workspace."""

    reviewed = Signal()
    counted = Signal()  # another scene is reviewed
    went_stale = Signal()
    _tried = Signal(object)
    _failed = Signal(object)
    _ready = Signal(object)
    _broke = Signal(object)
    _count = Signal(object)

    def __init__(self, workspace: Workspace) -> None:
        super().__init__(workspace)
        self.workspace = workspace
        self.tried: Event[Tried] = Event(self._tried)
        self.failed: Event[str] = Event(self._failed)
        self._answered: Event[tuple[int, Review]] = Event(self._ready)
        self._broken: Event[str] = Event(self._broke)
        self._found_in: Event[tuple[int, str | None, tuple[Finding, ...]]] = Event(self._count)
        self._found_in.connect(self._take_count)
        self._answered.connect(self._take)
        self._broken.connect(self._fail)
        self.memory = Memory()
        self.serial = 0
        self.latest: Review = first_review(workspace.base, self.memory)
        self.is_stale = False
        self._trying = self._tries_ended = 0  # the last that was asked for, and the last that ended
        self.is_broken = False  # the last review could not be finished
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._searches = QThreadPool(self)  # long ones do not keep the next review waiting
        self._searches.setMaxThreadCount(1)
        self._hand = self.latest.answers
        self._other = OtherHalf(self)
        self._other.answered.connect(self._take_from_other)
        self._other.lost.connect(self._lose_other)
        self._asked = 0.0
        self._in_hand = False
        self._under_way = self._shown = 0  # the serials of the review that is being made, and of the latest
        self._wanted: _Wanted = 0, workspace.base, None  # the latest, for the thread that follows the hand
        self._asked_other: dict[int, tuple[Shop, str | None]] = {}  # by serial, as long as it may be answered
        self._by_scene: dict[str | None, tuple[Finding, ...]] = {}  # of the document that is shown
        self._others = QTimer(self)
        self._others.setSingleShot(True)
        self._others.setInterval(OTHERS_AFTER)
        self._others.timeout.connect(self._count_others)
        self._search_rest = QTimer(self)
        self._search_rest.setSingleShot(True)
        self._search_rest.setInterval(SEARCH_AFTER)
        self._search_rest.timeout.connect(self._search)
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._start)
        workspace.changed.connect(self.request)
        workspace.previewed.connect(self.request)

    def request(self) -> None:
        """Asks for a review of what is shown now; while requests follow each other, as in a drag, it waits
        until the hand rests.
        """
        self.serial += 1
        self.is_broken = False
        self._others.stop()
        self._search_rest.stop()
        if not self.is_stale:
            self.is_stale = True
            self.went_stale.emit()
        now = monotonic()
        hurried = now - self._asked < REST / 1000.0
        self._asked = now
        if self._in_hand:
            self._follow()
        elif hurried:
            self._rest.start(REST)
        else:
            self._start()

    @property
    def is_settled(self) -> bool:
        """Whether the latest review is of what is shown, and no hand is about to change that."""
        return not (self.is_stale or self._in_hand)

    @property
    def _now(self) -> _Wanted:
        return self.serial, self.workspace.shown_base, self.workspace.view.now.scene

    def _follow(self) -> None:
        """Has what is in the hand reviewed as it is now: in the other process, as a thread of this one takes
        turns with the painting; here until that one runs.
        """
        self._wanted = self._now
        if self._other.works and self.serial not in self._asked_other:
            self._asked_other[self.serial] = self._wanted[1:]
            self._other.ask(*self._wanted)
        if not (self._other.is_ready or self._under_way):  # else it goes on when that is there
            self._start()

    def hold(self, in_hand: bool) -> None:
        """A thing is taken into the hand, or let go."""
        self._in_hand = in_hand
        if in_hand:
            return
        is_asked = self.serial in self._asked_other and self._other.is_ready
        if not self.is_stale:
            self.reviewed.emit()  # which is settled now
        elif not (self.serial == self._under_way or is_asked):
            self._start()

    def _start(self) -> None:
        self._rest.stop()
        self.memory.attachments = self.workspace.blobs
        asked = self._wanted = self._now
        self._under_way = self.serial

        def work() -> None:
            wanted: _Wanted | None = asked
            while wanted is not None:
                serial, shop, scene = wanted
                if not self._in_hand and serial != self.serial:
                    return  # a later request is waiting
                answer = first_review(shop, self.memory, scene, self.latest)
                wanted = self._next(serial)
                self._answered.emit((serial, answer))

        self._pool.start(Job(work, self._broken))

    def _next(self, last: int) -> _Wanted | None:
        """What the thread reviews after the last without being told: what is in the hand by now."""
        wanted = self._wanted
        if not self._in_hand or wanted[0] <= last or self._other.is_ready:
            return None
        self._under_way = wanted[0]
        return wanted

    def _take_from_other(self, told: Found) -> None:
        number, found = told
        if number not in self._asked_other or not self._shown < number:
            return
        shop, scene = self._asked_other[number]
        self._asked_other = {later: asked for later, asked in self._asked_other.items() if later > number}
        if isinstance(found, str):
            self._fail(found)
            return
        self._take((number, first_review(shop, self.memory, scene, self.latest, found)))

    def _lose_other(self) -> None:
        """What it was asked is reviewed here, slow as that may be."""
        self._asked_other.clear()
        if self.is_stale:
            self._start()

    def _search(self) -> None:
        """What takes long, behind the review that is shown already, once the hand rests."""
        serial, first = self.serial, self.latest
        self._other.know(first.shop, first.scene)

        def work() -> None:
            with while_wanted(lambda: serial == self.serial):
                self._answered.emit((serial, whole_review(first)))

        self._searches.start(Job(work, self._broken))

    @property
    def is_searching(self) -> bool:
        """Whether long searches are under way for what is shown."""
        return not self.is_stale and not self.latest.is_whole

    def _count_others(self) -> None:
        """Reviews the scenes that are not looked at, behind the one that is."""
        serial, shop = self.serial, self.workspace.base
        self._other.know(self.latest.shop, self.latest.scene)

        def work() -> None:
            with while_wanted(lambda: serial == self.serial):
                for scene in (None, *(one.id for one in shop.scenes)):
                    if serial == self.serial and scene != self.latest.scene:
                        self._found_in.emit((serial, scene, review(shop, self.memory, scene).findings))

        if shop.scenes and not self.workspace.is_previewing:
            self._searches.start(Job(work, self._broken))

    def _take_count(self, counted: tuple[int, str | None, tuple[Finding, ...]]) -> None:
        serial, scene, found = counted
        if serial == self.serial:
            self._by_scene[scene] = found
            self.counted.emit()

    def to_mend(self, scene: str | None) -> int | None:
        """How much there is to mend in a scene; None while that is not known."""
        found = self.findings_in(scene)
        return None if found is None else sum(one.grade <= Grade.MEND for one in found)

    def findings_in(self, scene: str | None) -> tuple[Finding, ...] | None:
        """What is found in a scene; None while that is not known."""
        return None if self.is_stale else self._by_scene.get(scene)

    def answers(self) -> Answers:
        """The answers for what is shown now, computed as far as asked for: for what must follow the hand."""
        workspace = self.workspace
        if self._hand.shop is not workspace.shown:
            self.memory.attachments = workspace.blobs
            self._hand = Answers(workspace.shown, self.memory, workspace.shown_base, workspace.view.now.scene)
        return self._hand

    def ask_remedies(self, finding: Finding) -> None:
        """Has remedies tried; `tried` brings them as they are found, unless something else is asked for
        meanwhile.
        """
        answers, serial = self.latest.answers, self.serial
        self._trying += 1
        trying = self._trying

        def work() -> None:
            try:
                with while_wanted(lambda: serial == self.serial and trying == self._trying):
                    found: tuple[Remedy, ...] = ()
                    for remedy in remedies_as_found(finding, answers):
                        found = easiest_first((*found, remedy))
                        self.tried.emit((finding.key, found, False, ""))
                    none = "" if found else nothing_small(finding, answers)
                    self.tried.emit((finding.key, found, True, none))
            finally:
                self._tries_ended = max(self._tries_ended, trying)

        self._pool.start(Job(work, self._broken))

    @property
    def is_trying(self) -> bool:
        """Whether remedies are being tried."""
        return self._tries_ended < self._trying

    def give_up(self) -> None:
        """Lets what was asked for go and waits for what is under way, before closing."""
        self.serial += 1
        self._in_hand = False  # else what is under way is followed by another
        self._rest.stop()
        self._others.stop()
        self._search_rest.stop()
        self._pool.waitForDone(-1)  # what is tried stops at its next step
        self._searches.waitForDone(-1)
        self._other.end()

    def _take(self, answered: tuple[int, Review]) -> None:
        serial, answer = answered
        if serial >= self._under_way:
            self._under_way = 0
        if self._in_hand and self._shown < serial < self.serial:
            self._follow()  # it goes on while this is shown
            self.latest, self._shown = answer, serial  # behind the hand, but nearer to it than what is shown
            self.reviewed.emit()
        if serial == self.serial:
            self._shown = serial
            self.latest = answer
            self._by_scene = {answer.scene: answer.findings}
            if answer.is_whole:
                self._others.start()
            else:
                self._search_rest.start()
            self.is_stale = self.is_broken = False
            self.reviewed.emit()

    def _fail(self, reason: str) -> None:
        self.is_broken, self._under_way = True, 0
        self.failed.emit(
            f"The review could not be finished ({reason}). Your work is kept; undo the last change."
        )
