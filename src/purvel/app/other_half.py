"""The other half: a process that reviews what is in the hand where that takes long, while this one paints."""

from __future__ import annotations

import sys

from PySide6.QtCore import QObject, QProcess, Signal

from purvel.app.signals import Event
from purvel.review.apart import Asked, Found, packed, processors, unpacked
from purvel.review.finding import Finding
from purvel.review.reviewing import AtFirst
from purvel.shop import Shop

_NO_QUESTION = -1
_SOON = 5  # ms
_LAST_WORDS = 2000  # ms that it may take to end


class OtherHalf(QObject):
    """What is asked while it reviews waits; of that it takes the latest, and the rest is never answered.

    `lost` says that it ended without an answer; `works` whether it is of any use: on one processor it is not,
    and one that could not be begun, or ended before it answered anything, is not begun again.
    """

    lost = Signal()
    _told = Signal(object)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self.answered: Event[Found] = Event(self._told)
        self.works = processors() > 1
        self._process: QProcess | None = None
        self._last: int | None = None  # the latest question, if it is not answered yet
        self._has_answered = False
        self._come = bytearray()
        self._shop = Shop()  # the last that it was asked about, and what it told last
        self._findings: tuple[Finding, ...] = ()

    def ask(self, number: int, shop: Shop, scene: str | None) -> None:
        """Has a shop reviewed in a scene; `answered` brings what was found, unless a later question comes
        first.
        """
        if self._process is None:
            self._begin()
        if self._process is not None:
            self._last = number
            self._process.write(packed(Asked.of(number, shop, scene, self._shop)))
            self._shop = shop
            self._process.waitForBytesWritten(_SOON)  # now, not when the frame is painted

    @property
    def is_ready(self) -> bool:
        """Whether it runs and has answered."""
        return self._has_answered

    def know(self, shop: Shop, scene: str | None) -> None:
        """Has it know a shop, so that it is quick to review it with one thing elsewhere; what it finds is
        nobody's answer.
        """
        if self.works and shop.things and shop is not self._shop:
            self.ask(_NO_QUESTION, shop, scene)

    def _begin(self) -> None:
        self._process = process = QProcess(self)
        process.setProcessChannelMode(QProcess.ProcessChannelMode.ForwardedErrorChannel)
        process.readyReadStandardOutput.connect(self._read)
        process.finished.connect(self._ended)
        process.errorOccurred.connect(self._failed)
        process.start(sys.executable, ["-c", "from purvel.review.apart import run; run()"])

    def _read(self) -> None:
        if self._process is None:
            return
        self._come += self._process.readAllStandardOutput().data()
        for told in unpacked(self._come):
            self._has_answered = True
            number, found = told.found(self._findings)
            if isinstance(found, AtFirst):
                self._findings = found.findings
            if number == self._last:
                self._last = None
            if number != _NO_QUESTION:
                self.answered.emit((number, found))

    def _failed(self, error: QProcess.ProcessError) -> None:
        if error == QProcess.ProcessError.FailedToStart:  # else it is said that it has ended
            self._ended()

    def _ended(self) -> None:
        """It ended by itself; the next question begins another, if that may do better."""
        self.works = self._has_answered
        was_asked = self._last is not None
        self._forget()
        if was_asked:
            self.lost.emit()

    def _forget(self) -> None:
        self._process, self._last, self._has_answered = None, None, False
        self._come.clear()
        self._shop, self._findings = Shop(), ()

    def end(self) -> None:
        """Lets it go, before closing."""
        process, self._process = self._process, None
        if process is not None:
            process.finished.disconnect(self._ended)
            process.errorOccurred.disconnect(self._failed)
            process.kill()
            process.waitForFinished(_LAST_WORDS)
            process.deleteLater()
        self._forget()
