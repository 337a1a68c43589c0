"""Remedies: changes that would help a finding.

Each is tried on the shop first; only those that lower the finding's grade or leave it gone, and make nothing
worse in any stage or scene, are offered. This is the one place where what stages propose meets the stages
themselves.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from math import inf

from purvel.review.answers import Answers
from purvel.review.effort import effort
from purvel.review.figures import Figures
from purvel.review.finding import Finding, Grade, Remedy
from purvel.review.memory import Memory
from purvel.review.moves import same
from purvel.review.reviewing import About, findings_of, grades_of, searched, worst_of
from purvel.review.scenes import answers_for
from purvel.review.stage import Stage
from purvel.review.stages import STAGES, stage_of
from purvel.shop import Shop
from purvel.shop.edits import Edit
from purvel.shop.parts import ids_of, reads_same
from purvel.shop.scenes import carried_back
from purvel.shop.watched import Watched, watched
from purvel.stopping import go_on

MOST = 3  # remedies offered for one finding


def make_ready(answers: Answers) -> None:
    """Finds now what all changes are tried against, in every scene."""
    for scene in (None, *(scene.id for scene in answers.base.scenes)):
        answers.of(_Before).standing(scene)


def can_try(finding: Finding) -> bool:
    """Whether anything is known to try for a finding."""
    return finding.grade != Grade.GOOD and finding.rule in stage_of(finding.stage).remedies


def remedies_for(finding: Finding, answers: Answers) -> tuple[Remedy, ...]:
    """Up to three remedies that were tried and help, the easiest first.

    Empty for what already holds and for rules that know none.
    """
    return easiest_first(remedies_as_found(finding, answers))


def easiest_first(remedies: Iterable[Remedy]) -> tuple[Remedy, ...]:
    """Remedies by the work that they are; those of which that is not known last, as they were found."""
    return tuple(sorted(remedies, key=lambda one: inf if one.effort is None else one.effort))


def remedies_as_found(finding: Finding, answers: Answers) -> Iterator[Remedy]:
    """The same, each as soon as it is found, in no order."""
    if not can_try(finding):
        return
    say = Figures(answers.shop.units)
    # what a search for a change found out is known when the change is tried
    searching = Answers(answers.shop, answers.memory.scratch(), answers.base, answers.scene)
    trial, given, done = _Trial(finding, answers, searching.memory), 0, set[str]()
    for label, edit, *instead in stage_of(finding.stage).remedies[finding.rule](finding, searching, say):
        if instead and instead[0] in done:
            continue  # another place for what has one already
        remedy = trial.of(label, edit)
        if remedy is not None:
            yield remedy
            given += 1
            done.update(instead)
        if given == MOST:
            return


@dataclass(frozen=True, slots=True)
class _Found:
    """What a stage found in a shop: the worst grade of each finding, and all that it read for that of the
    shop as it stands and of the document's.
    """

    stage: Stage
    grades: Mapping[About, Grade]
    standing: Watched
    base: Watched

    def holds_in(self, now: Answers) -> bool:
        """Whether it would find the same, having read the same."""
        return all(
            reads_same(was.reads, was.real, shop)
            for was, shop in ((self.standing, now.shop), (self.base, now.base))
        )


def _found(stage: Stage, answers: Answers) -> _Found:
    shop, base = watched(answers.shop), watched(answers.base)
    reading = Answers(shop, answers.memory, base, answers.scene)
    return _Found(stage, grades_of(stage, reading), shop, base)


class _Before:
    """What was found before any change: by stage in the scene that is looked at, and in all stages by scene.
    All findings of a review are tried against it.
    """

    def __init__(self, answers: Answers) -> None:
        self._answers = answers
        self._stages: dict[str, list[Finding]] = {}
        self._scenes: dict[str | None, tuple[Answers, list[_Found]]] = {}

    def found(self, stage: Stage) -> list[Finding]:
        """What a stage finds without long searches."""
        if stage.key not in self._stages:
            self._stages[stage.key] = findings_of(stage, self._answers)
        return self._stages[stage.key]

    def standing(self, scene: str | None) -> tuple[Answers, list[_Found]]:
        """The shop in a scene, and what each stage finds there."""
        if scene not in self._scenes:
            was = answers_for(self._answers.base, scene, self._answers.memory)
            self._scenes[scene] = was, [_found(stage, was) for stage in STAGES]
        return self._scenes[scene]


class _Trial:
    """Changes tried for one finding."""

    def __init__(self, finding: Finding, answers: Answers, memory: Memory) -> None:
        self.finding, self.answers, self.memory = finding, answers, memory
        self.stage = stage_of(finding.stage)
        self._before = answers.of(_Before)

    def of(self, label: str, edit: Edit) -> Remedy | None:
        """The change as a remedy, if it helps and makes nothing worse."""
        go_on()
        answers, finding = self.answers, self.finding
        edited = edit(answers.shop)
        shop = carried_back(answers.base, answers.scene, answers.shop, edited)
        trial = answers_for(shop, answers.scene, self.memory)
        before, after = self._before.found(self.stage), findings_of(self.stage, trial)
        brought = ids_of(shop) - ids_of(answers.base)
        if self._got_worse(worst_of(before), worst_of(after), brought):
            return None
        if not any(same(other, finding) for other in before):  # a search found it
            after += searched(self.stage, trial)
        now = next((other for other in after if same(other, finding)), None)
        progress = self.stage.progress.get(finding.rule)
        if now is not None and not (
            now.grade > finding.grade or (now.grade == finding.grade and progress and progress(finding, now))
        ):
            return None
        if self._worsens(shop, brought):
            return None
        outcome = "This finding is then gone." if now is None else f"{now.grade.word}: {now.sentence}"
        known = worst_of(before)
        todo = (
            one for one in after if one.rule in self.stage.next_steps and (one.rule, one.about) not in known
        )
        left = next(todo, None)
        outcome = outcome if left is None else f"{outcome} Still to do: {left.sentence}"
        return Remedy(label, outcome, edit, effort(answers.shop, edited))

    def _worsens(self, shop: Shop, brought: set[str]) -> bool:
        """Whether anything is worse in another stage, or in another scene that the change reaches; what the
        finding's own stage finds in the scene that is looked at is known already.
        """
        base = self.answers.base
        others = [
            None,
            *(scene.id for scene in base.scenes if any(one.id == scene.id for one in shop.scenes)),
        ]
        for scene in sorted(others, key=lambda one: one != self.answers.scene):
            go_on()
            (was, found), now = self._before.standing(scene), answers_for(shop, scene, self.memory)
            if was.shop == now.shop and was.base.air == now.base.air:
                continue  # the change does not reach this scene; the day runs in none
            for one in found:
                is_own = scene == self.answers.scene and one.stage is self.stage
                if is_own or one.holds_in(now):
                    continue
                if self._got_worse(one.grades, grades_of(one.stage, now), brought):
                    return True
        return False

    def _got_worse(
        self, before: Mapping[About, Grade], after: Mapping[About, Grade], brought: set[str]
    ) -> bool:
        """Whether a finding fell in grade, or there is a new Stop or Mend. What is still to be done about
        something that the change brought in (it has no outlet yet) is no harm to what was there.
        """
        if self.finding.rule in self.stage.next_steps | self.stage.readings:
            return False  # it takes back what was only counted on: what shows then is no harm that it did
        for key, grade in after.items():
            is_next = key[0] in self.stage.next_steps or bool(brought & set(key[1]))
            worst = Grade.STOP if is_next else Grade.MEND
            if grade < before[key] if key in before else grade <= worst:
                return True
        return False
