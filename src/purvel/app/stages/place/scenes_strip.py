"""All scenes as small plans, next to each other; two of them larger, with what is worse in either."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent

from purvel.app.plan import draw_room, draw_things
from purvel.app.plan.pens import shortened
from purvel.app.plan.sheet import Sheet
from purvel.app.reviews import Reviews
from purvel.app.theme import Theme
from purvel.app.widgets.picture import Picture
from purvel.app.widgets.words import set_tip
from purvel.app.workspace import Workspace
from purvel.review import Finding
from purvel.review.comparing import compared, holds_in_every
from purvel.review.figures import sentence_case
from purvel.review.room.answers import RoomAnswers
from purvel.review.scenes import answers_for, scene_name

_GAP = 10.0  # px between small plans
_LINES = 3  # of what is worse that are told of each of two scenes
_WIDEST = 1.6  # of a small plan's width to its height

SceneId = str | None


class ScenesStrip(Picture):
    """The instrument of scenes: a click or Enter looks at one, a click with Shift or Space sets a second next
    to it.
    """

    def __init__(self, workspace: Workspace, reviews: Reviews, theme: Theme) -> None:
        super().__init__(theme)
        self.workspace, self.reviews = workspace, reviews
        self.beside: SceneId | bool = False  # the scene that is set next to the one that is looked at
        self.at = 0  # which the keys are at
        self.setMinimumHeight(120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Scenes side by side")
        set_tip(
            self,
            "Click a scene to look at it; Shift and click sets it next to that one (keys: ← →, Enter, Space)",
        )

    def scenes(self) -> list[SceneId]:
        """As drawn, then the scenes."""
        return [None, *(scene.id for scene in self.workspace.base.scenes)]

    def draw(self, sheet: Sheet) -> None:
        scenes = self.scenes()
        if len(scenes) < 2:
            self.say_nothing_yet(
                sheet, "There is one scene only. Make another in the header: “Scene”, “New scene”."
            )
            return
        self._heading(sheet, scenes)
        for scene, box in self.boxes():
            self._plan(sheet, scene, box)
        if self.pair() is not None:
            self._differences(sheet)

    def pair(self) -> tuple[SceneId, SceneId] | None:
        """The two scenes that are set next to each other, if there are two."""
        now = self.workspace.view.now.scene
        if (
            self.beside is False
            or self.beside is True
            or self.beside == now
            or self.beside not in self.scenes()
        ):
            return None
        return now, self.beside

    def boxes(self) -> list[tuple[SceneId, QRectF]]:
        """The scenes that are drawn, each with its place on the picture."""
        two = self.pair()
        shown: Sequence[SceneId] = self.scenes() if two is None else two
        top = self.theme.pixels * 1.9
        height = self.height() - top - 4
        room = self.width() if two is None else self.width() * 0.5
        wide = min((room - _GAP) / len(shown) - _GAP, height * _WIDEST)
        return [(scene, QRectF(_GAP + k * (wide + _GAP), top, wide, height)) for k, scene in enumerate(shown)]

    def _heading(self, sheet: Sheet, scenes: Sequence[SceneId]) -> None:
        known = [self.reviews.findings_in(scene) for scene in scenes]
        found = [one for one in known if one is not None]
        if len(found) < len(scenes):
            words = f"{len(scenes)} scenes; they are being checked."
        else:
            holds, of = holds_in_every(found)
            words = f"{holds} of {of} checks hold in every scene."
        two = self.pair()
        if two is not None:
            names = " and ".join(scene_name(self.workspace.base, one) for one in two)
            words = f"{sentence_case(names)}, side by side"
        sheet.heading((words,), sheet.palette.ink, self.width(), 1.0)

    def _plan(self, sheet: Sheet, scene: SceneId, box: QRectF) -> None:
        palette, painter = sheet.palette, sheet.painter
        is_now, is_at = (
            scene == self.workspace.view.now.scene,
            self.scenes()[self.at % len(self.scenes())] == scene,
        )
        painter.setBrush(sheet.brush(palette.sheet))
        marked = is_at and self.hasFocus()
        painter.setPen(
            sheet.pen(
                palette.accent if is_now else palette.pencil,
                2.5 if is_now else 1.0,
                dashes=(3, 2) if marked else (),
            )
        )
        painter.drawRect(box)
        lines = self.theme.pixels * 1.25
        name = scene_name(self.workspace.base, scene)
        count = self.reviews.to_mend(scene)
        said = f"{sentence_case(name)}: " + (
            "…" if count is None else f"{count} to mend" if count else "nothing to mend"
        )
        font = sheet.font(0.85)
        painter.setFont(font)
        painter.setPen(sheet.pen(palette.ink))
        bottom = QRectF(box.left() + 4, box.bottom() - lines, box.width() - 8, lines)
        painter.drawText(bottom, int(Qt.AlignmentFlag.AlignCenter), shortened(said, font, bottom.width()))
        self._room(sheet, scene, box.adjusted(6, 6, -6, -lines - 2))

    def _room(self, sheet: Sheet, scene: SceneId, box: QRectF) -> None:
        answers = answers_for(self.workspace.base, scene, self.reviews.memory)
        shell = answers.of(RoomAnswers).shell
        if shell.floor.is_empty or box.height() < 20:
            return
        x0, y0, x1, y1 = shell.floor.bounds
        scale = min(box.width() / (x1 - x0), box.height() / (y1 - y0)) * 0.94
        origin = QPointF(box.center().x() - scale * (x0 + x1) / 2, box.center().y() + scale * (y0 + y1) / 2)
        small = Sheet(sheet.painter, sheet.palette, scale, origin, max(6, round(self.theme.pixels * 0.55)))
        draw_room.room(small, shell, None)
        draw_things.things(small, answers.shop, None, {})

    def _differences(self, sheet: Sheet) -> None:
        two = self.pair()
        assert two is not None
        left = self.boxes()[-1][1].right() + 2 * _GAP
        y, step = self.theme.pixels * 2.4, self.theme.pixels * 1.25
        found = [self.reviews.findings_in(scene) for scene in two]
        if found[0] is None or found[1] is None:
            sheet.text(QPointF(left, y), "Being checked…", sheet.palette.pencil, centre=False)
            return
        differ = compared(found[0], found[1])
        rows: list[tuple[str, str, bool]] = []
        for scene, worse in zip(two, (differ.first, differ.second)):
            name = scene_name(self.workspace.base, scene)
            head = f"Worse in {name}:" if worse else f"Nothing is worse in {name}."
            rows.append((head, sheet.palette.ink, True))
            rows += [(_line(one), sheet.palette.grade(one.grade), False) for one in worse[:_LINES]]
            if len(worse) > _LINES:
                rows.append((f"and {len(worse) - _LINES} more", sheet.palette.pencil, False))
        rows.append((f"{differ.alike} checks are alike.", sheet.palette.pencil, False))
        for words, colour, bold in rows:
            room = self.width() - left - 8
            text = QFontMetricsF(sheet.font(0.85)).elidedText(words, Qt.TextElideMode.ElideRight, room)
            sheet.text(QPointF(left, y), text, colour, factor=0.85, bold=bold, centre=False)
            y += step

    # ---- by hand

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for scene, box in self.boxes() if len(self.scenes()) > 1 else ():
            if box.contains(event.position()):
                self.at = self.scenes().index(scene)
                if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                    self.set_beside(scene)
                else:
                    self.look_at(scene)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        scenes = self.scenes()
        if event.key() in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            self.at = (self.at + (1 if event.key() == Qt.Key.Key_Right else -1)) % len(scenes)
            self.update()
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.look_at(scenes[self.at % len(scenes)])
        elif event.key() == Qt.Key.Key_Space:
            self.set_beside(scenes[self.at % len(scenes)])
        else:
            super().keyPressEvent(event)

    def look_at(self, scene: SceneId) -> None:
        """Looks at a scene; with two next to each other, at the other one, or ends that."""
        if self.pair() is not None and scene == self.workspace.view.now.scene:
            self.beside = False
            self.update()
            return
        if self.pair() is not None:
            self.beside = self.workspace.view.now.scene
        self.workspace.view.look_at(scene=scene, open_finding=None)
        self.update()

    def set_beside(self, scene: SceneId) -> None:
        """Sets a scene next to the one that is looked at, or takes it away again."""
        self.beside = (
            False
            if self.pair() is not None and scene in (self.beside, self.workspace.view.now.scene)
            else scene
        )
        self.update()


def _line(finding: Finding) -> str:
    return f"{finding.grade.word}: {finding.sentence}"
