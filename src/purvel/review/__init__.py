"""The review: runs the engines that a shop needs and turns their results into findings, worst first."""

from purvel.review.answers import Answers
from purvel.review.figures import Figures
from purvel.review.finding import Basis, Finding, Grade, Remedy, Where
from purvel.review.memory import Memory
from purvel.review.reviewing import Review, review
from purvel.review.trying import easiest_first, remedies_as_found, remedies_for

__all__ = [
    "Answers",
    "Basis",
    "Figures",
    "Finding",
    "Grade",
    "Memory",
    "Remedy",
    "Review",
    "Where",
    "easiest_first",
    "remedies_as_found",
    "remedies_for",
    "review",
]
