"""All findings of a shop."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from purvel.once import once
from purvel.review.answers import Answers
from purvel.review.figures import Figures, Unsaid
from purvel.review.finding import Finding, Grade
from purvel.review.memory import Memory
from purvel.review.scenes import answers_for
from purvel.review.stage import Rule, Stage
from purvel.review.stages import ORDER, STAGES
from purvel.shop import Shop
from purvel.shop.scenes import is_asleep


@dataclass(frozen=True)
class Review:
    """A document's shop with what the engines say about it in one scene, and the findings, worst first.

    `found_late` are those of long searches, which follow behind; `is_whole` says whether they are of this
    very shop.
    """

    shop: Shop
    scene: str | None
    answers: Answers
    findings: tuple[Finding, ...]
    found_late: tuple[Finding, ...] = ()
    is_whole: bool = True

    def of(self, stage: str) -> tuple[Finding, ...]:
        """The findings of one stage."""
        return self._by_stage.get(stage, ())

    @once
    def _by_stage(self) -> dict[str, tuple[Finding, ...]]:
        found = dict[str, list[Finding]]()
        for finding in self.findings:
            found.setdefault(finding.stage, []).append(finding)
        return {stage: tuple(of_stage) for stage, of_stage in found.items()}

    def to_mend(self, stage: str | None = None) -> int:
        """How many are graded Stop or Mend, in all or in one stage."""
        found = self.findings if stage is None else self.of(stage)
        return sum(finding.grade <= Grade.MEND for finding in found)


def _applies(stage: Stage, answers: Answers) -> bool:
    """Whether there is anything to check in the scene that the answers are of."""
    return stage.applies(answers) and not (stage.about_work and is_asleep(answers.base, answers.scene))


def findings_of(stage: Stage, answers: Answers) -> list[Finding]:
    """What one stage finds without long searches."""
    return _found(stage, answers, stage.rules)


About = tuple[str, tuple[str, ...]]
"""What tells a finding from others in one scene: its rule, and the ids that it speaks of."""


def grades_of(stage: Stage, answers: Answers) -> dict[About, Grade]:
    """The worst grade of each finding of one stage without long searches; what they say is left unsaid."""
    if not _applies(stage, answers):
        return {}
    say = Unsaid(answers.shop.units)
    return worst_of(finding for rule in stage.rules for finding in rule(answers, say))


def worst_of(findings: Iterable[Finding]) -> dict[About, Grade]:
    """The worst grade of each finding."""
    found: dict[About, Grade] = {}
    for one in findings:
        key = (one.rule, one.about)
        found[key] = min(one.grade, found.get(key, Grade.GOOD))
    return found


def searched(stage: Stage, answers: Answers) -> list[Finding]:
    """What one stage finds by long searches."""
    return _found(stage, answers, stage.searches)


def _found(stage: Stage, answers: Answers, rules: Iterable[Rule]) -> list[Finding]:
    if not _applies(stage, answers):
        return []
    say = Figures(answers.shop.units)
    found = (finding for rule in rules for finding in rule(answers, say))
    return [finding.placed(stage.key, answers.scene) for finding in found]


def _worst_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    return tuple(sorted(findings, key=lambda finding: (finding.grade, ORDER.index(finding.stage))))


@dataclass(frozen=True, slots=True)
class AtFirst:
    """What all stages find without long searches, and whether some wait for those."""

    findings: tuple[Finding, ...]
    waits: bool


def found_at_first(answers: Answers) -> AtFirst:
    """What a review knows before its long searches."""
    return AtFirst(
        tuple(finding for stage in STAGES for finding in findings_of(stage, answers)),
        any(stage.searches and _applies(stage, answers) for stage in STAGES),
    )


def first_review(
    shop: Shop,
    memory: Memory,
    scene: str | None = None,
    last: Review | None = None,
    found: AtFirst | None = None,
) -> Review:
    """A review without long searches; what those found `last` in this scene stands until they are done.
    `found` is what is known before them, if it is known already.
    """
    answers = answers_for(shop, scene, memory)
    found = found_at_first(answers) if found is None else found
    late = last.found_late if last is not None and last.scene == scene else ()
    late = late if found.waits else ()
    findings = _worst_first([*found.findings, *late])
    return Review(shop, scene, answers, findings, late, is_whole=not found.waits)


def whole_review(first: Review) -> Review:
    """A first review with its long searches done. Raises Stopped when nobody waits any more."""
    if first.is_whole:
        return first
    late = tuple(finding for stage in STAGES for finding in searched(stage, first.answers))
    quick = [finding for finding in first.findings if finding not in first.found_late]
    return replace(first, findings=_worst_first([*quick, *late]), found_late=late, is_whole=True)


def review(shop: Shop, memory: Memory | None = None, scene: str | None = None) -> Review:
    """Reviews a shop in all stages as it stands in a scene; as drawn where none is named."""
    return whole_review(first_review(shop, memory or Memory(), scene))
