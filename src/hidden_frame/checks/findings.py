"""Doubtful things about order, numbering and names; none of them is forbidden.

>>> book.section_at(9, start=1).name
''
>>> [f.sentence for f in findings(book.publication)][:1]
['...']
"""

from __future__ import annotations

from collections import defaultdict
from functools import cache

from hidden_frame.checks.finding import Finding
from hidden_frame.checks.kinds import OrderCheck, order_checks
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication


@remembered()
def findings(publication: Publication) -> list[Finding]:
    """All findings, in the order in which a designer would look at them."""
    return [finding for check in kept_checks() for finding in check(publication)]


def findings_by_page(publication: Publication) -> dict[str, list[str]]:
    """The sentences about each page, for marks and tooltips."""
    result: dict[str, list[str]] = defaultdict(list)
    for finding in findings(publication):
        for page in finding.pages:
            result[page].append(finding.sentence)
    return dict(result)


def kept_checks() -> tuple[OrderCheck, ...]:
    """The checks, each remembering what it found.

    One after the other they leave room for something else between two: for thousands of pages
    all of them take longer than a frame.
    """
    return tuple(_kept(check) for check in order_checks())


@cache
def _kept(check: OrderCheck) -> OrderCheck:

    @remembered()
    def kept(publication: Publication) -> tuple[Finding, ...]:
        return tuple(check(publication))

    return kept
