"""All findings of a shop."""

from dataclasses import dataclass, replace

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding, Grade
from purvel.review.memory import Memory
from purvel.review.scenes import answers_for
from purvel.review.stage import Stage
from purvel.review.stages import ORDER, STAGES
from purvel.shop import Shop


@dataclass(frozen=True, slots=True)
class Review:
    """A document's shop with what the engines say about it in one scene, and the findings, worst first."""

    shop: Shop
    scene: str | None
    answers: Answers
    findings: tuple[Finding, ...]

    def of(self, stage: str) -> tuple[Finding, ...]:
        """The findings of one stage."""
        return tuple(finding for finding in self.findings if finding.stage == stage)

    def to_mend(self, stage: str | None = None) -> int:
        """How many are graded Stop or Mend, in all or in one stage."""
        found = self.findings if stage is None else self.of(stage)
        return sum(finding.grade <= Grade.MEND for finding in found)


def findings_of(stage: Stage, answers: Answers) -> list[Finding]:
    """What one stage finds."""
    if not stage.applies(answers):
        return []
    say = Figures(answers.shop.units)
    found = (finding for rule in stage.rules for finding in rule(answers, say))
    return [replace(finding, stage=stage.key, scene=answers.scene) for finding in found]


def review(shop: Shop, memory: Memory | None = None, scene: str | None = None) -> Review:
    """Reviews a shop in all stages as it stands in a scene; as drawn where none is named."""
    answers = answers_for(shop, scene, memory or Memory())
    found = [finding for stage in STAGES for finding in findings_of(stage, answers)]
    ordered = sorted(found, key=lambda finding: (finding.grade, ORDER.index(finding.stage)))
    return Review(shop, scene, answers, tuple(ordered))
