"""Remedies: changes that would help a finding.

Each is tried on the shop first; only those that lower the finding's grade or leave it gone are offered. This
is the one place where what stages propose meets the stages themselves.
"""

from collections.abc import Iterable
from itertools import islice

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding, Grade, Remedy
from purvel.review.moves import same
from purvel.review.reviewing import findings_of, searched
from purvel.review.scenes import tried
from purvel.review.stages import stage_of
from purvel.shop.edits import Edit
from purvel.stopping import go_on

MOST = 3  # remedies offered for one finding


def remedies_for(finding: Finding, answers: Answers) -> tuple[Remedy, ...]:
    """Up to three remedies that were tried and help.

    Empty for what already holds and for rules that know none.
    """
    proposer = stage_of(finding.stage).remedies.get(finding.rule)
    if proposer is None or finding.grade == Grade.GOOD:
        return ()
    say = Figures(answers.shop.units)
    results = (_tried(finding, answers, label, edit) for label, edit in proposer(finding, answers, say))
    return tuple(islice((remedy for remedy in results if remedy is not None), MOST))


def _tried(finding: Finding, answers: Answers, label: str, edit: Edit) -> Remedy | None:
    go_on()
    stage = stage_of(finding.stage)
    trial = tried(answers, edit, answers.memory.scratch())
    before, after = findings_of(stage, answers), findings_of(stage, trial)
    if _stops(after) - _stops(before):
        return None  # cures one thing and stops another
    if not any(same(other, finding) for other in before):  # a search found it
        after += searched(stage, trial)
    now = next((other for other in after if same(other, finding)), None)
    if now is None:
        return Remedy(label, "This finding is then gone.", edit)
    progress = stage.progress.get(finding.rule)
    if now.grade > finding.grade or (now.grade == finding.grade and progress and progress(finding, now)):
        return Remedy(label, f"{now.grade.word}: {now.sentence}", edit)
    return None


def _stops(findings: Iterable[Finding]) -> set[tuple[str, tuple[str, ...]]]:
    return {(finding.rule, finding.about) for finding in findings if finding.grade == Grade.STOP}
