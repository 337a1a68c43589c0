"""Reviews off the interface thread: the latest request wins, and a stale answer is known as such until the
new one is there.
"""

from time import monotonic

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal

from purvel.app.desk import Desk
from purvel.review import Answers, Finding, Memory, Review, remedies_for, review
from purvel.shop import Shop

REST = 120  # ms: requests nearer to each other than this come from a hand that moves
# ms that a thing held in the hand is still before a review is begun: the review's thread would make the drag
# stutter
REST_IN_HAND = 400


class _Answer(QObject):
    ready = Signal(int, object)
    failed = Signal(int, str)


class _Job(QRunnable):
    def __init__(self, serial: int, bench: "ReviewBench", shop: Shop) -> None:
        super().__init__()
        self.serial, self.bench, self.shop = serial, bench, shop

    def run(self) -> None:
        if self.serial != self.bench.serial:
            return  # a later request is waiting
        try:
            answer = review(self.shop, self.bench.memory)
        # whatever goes wrong is said on the screen, not lost in a thread
        except Exception as exc:  # noqa: BLE001
            self.bench.answer.failed.emit(self.serial, f"{type(exc).__name__}: {exc}")
            return
        self.bench.answer.ready.emit(self.serial, answer)


class _MovesJob(QRunnable):
    def __init__(self, bench: "ReviewBench", finding: Finding, of: Review) -> None:
        super().__init__()
        self.bench, self.finding, self.of = bench, finding, of

    def run(self) -> None:
        try:
            moves = remedies_for(self.finding, self.of.answers)
        except Exception as exc:  # noqa: BLE001
            self.bench.answer.failed.emit(-1, f"{type(exc).__name__}: {exc}")
            moves = ()
        self.bench.moves_ready.emit(self.finding.key, moves)


class ReviewBench(QObject):
    """Keeps `latest` in step with the desk."""

    reviewed = Signal()
    went_stale = Signal()
    moves_ready = Signal(object, object)
    failed = Signal(str)

    def __init__(self, desk: Desk) -> None:
        super().__init__(desk)
        self.desk = desk
        self.memory = Memory()
        self.serial = 0
        self.latest: Review = review(desk.shop, self.memory)
        self.is_stale = False
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self.answer = _Answer(self)
        self.answer.ready.connect(self._take)
        self.answer.failed.connect(self._fail)
        self._hand = Answers(desk.shop, self.memory)
        self._asked = 0.0
        self._in_hand = False
        self._rest = QTimer(self)
        self._rest.setSingleShot(True)
        self._rest.timeout.connect(self._start)
        desk.changed.connect(self.request)
        desk.previewed.connect(self.request)

    def request(self) -> None:
        """Asks for a review of what is shown now; while requests follow each other, as in a drag, it waits
        until the hand rests.
        """
        self.serial += 1
        if not self.is_stale:
            self.is_stale = True
            self.went_stale.emit()
        now = monotonic()
        hurried = now - self._asked < REST / 1000.0
        self._asked = now
        if self._in_hand or hurried:
            self._rest.start(REST_IN_HAND if self._in_hand else REST)
        else:
            self._start()

    def hold(self, in_hand: bool) -> None:
        """A thing is taken into the hand, or let go."""
        self._in_hand = in_hand
        if not in_hand and self._rest.isActive():
            self._start()

    def _start(self) -> None:
        self._rest.stop()
        self._pool.start(_Job(self.serial, self, self.desk.shown))

    def quick(self) -> Answers:
        """Answers for what is shown now, computed as far as asked for: for what must follow the hand."""
        if self._hand.shop is not self.desk.shown:
            self._hand = Answers(self.desk.shown, self.memory)
        return self._hand

    def ask_moves(self, finding: Finding) -> None:
        """Has moves tried; `moves_ready` brings them."""
        self._pool.start(_MovesJob(self, finding, self.latest))

    def give_up(self) -> None:
        """Lets what was asked for go and waits for what is under way, before closing."""
        self.serial += 1
        self._rest.stop()
        self._pool.waitForDone(10_000)

    def _take(self, serial: int, answer: Review) -> None:
        if serial != self.serial:
            return
        self.latest = answer
        self.is_stale = False
        self.reviewed.emit()

    def _fail(self, serial: int, sentence: str) -> None:
        self.failed.emit(
            f"The review could not be finished ({sentence}). Your work is kept; undo the last change."
        )
