"""The review: runs the engines that a shop needs and turns their results into findings, worst first."""

from purvel.review.assemble import Review, review
from purvel.review.finding import Basis, Finding, Grade, Move, Stage, Where
from purvel.review.moves import moves_for
from purvel.review.results import Results, Reviewer

__all__ = [
    "Basis",
    "Finding",
    "Grade",
    "Move",
    "Results",
    "Review",
    "Reviewer",
    "Stage",
    "Where",
    "moves_for",
    "review",
]
