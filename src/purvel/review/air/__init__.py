"""The air of the room over a session, and what a monitor saw of it."""

from collections.abc import Iterator, Sequence
from typing import Any

from purvel.review.air import beyond, hanging, log_rules, log_runs, log_tests, protection
from purvel.review.air.answers import AirAnswers
from purvel.review.air.help_words import help_tables
from purvel.review.air.log_report import comparison_tables, log_tables, logs_report
from purvel.review.air.remedies import PROGRESS, REMEDIES
from purvel.review.air.report import report, summary
from purvel.review.air.rules import RULES
from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Finding
from purvel.review.stage import Rule, Stage, Table


def _applies(answers: Answers) -> bool:
    has_log = any(one.kind == "log" for one in answers.base.attachments)
    return has_log or answers.of(AirAnswers).day is not None


def _where_there_is_a_day(rules: Sequence[Rule]) -> tuple[Rule, ...]:
    """The rules as they are asked where there may be logs only."""

    def asked(rule: Rule) -> Rule:
        def findings(answers: Answers, say: Figures) -> Iterator[Finding]:
            if answers.of(AirAnswers).day is not None:
                yield from rule(answers, say)

        return findings

    return tuple(asked(rule) for rule in rules)


def _report(answers: Answers) -> dict[str, Any]:
    return report(answers) | protection.report(answers) | {"logs": logs_report(answers)}


def _tables(answers: Answers, say: Figures) -> Iterator[Table]:
    if answers.of(AirAnswers).day is not None:
        yield from beyond.rooms_table(answers, say)
        yield from protection.card(answers, say)
        yield from help_tables(answers, say)
    yield from log_tables(answers, say)
    yield from comparison_tables(answers, say)


STAGE = Stage(
    key="air",
    title="Air",
    question="How long does the dust hang?",
    applies=_applies,
    rules=_where_there_is_a_day((*RULES, hanging.places, *beyond.RULES, *protection.RULES)),
    searches=(
        log_rules.doubtful,
        log_rules.puffs,
        log_rules.decays,
        log_rules.comparisons,
        log_runs.captured,
        log_runs.released,
        log_tests.tests,
        log_tests.drifts,
        log_tests.vapours,
    ),
    remedies=REMEDIES
    | {
        "log-decay": log_rules.take_over,
        "log-capture": log_runs.take_capture,
        "log-emission": log_runs.take_emission,
        "cleaner-place": hanging.better_place,
        "room-beyond": beyond.shut,
        "beyond-unknown": beyond.add_room,
    },
    progress=PROGRESS | {"room-beyond": beyond.less_there, "cleaner-place": hanging.progress},
    next_steps=frozenset({"capture-assumed"}),
    readings=frozenset({"log-decay", "log-capture", "log-emission"}),
    report=_report,
    summary=summary,
    tables=_tables,
)
