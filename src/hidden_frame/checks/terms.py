"""Entries of the index that send the reader to a term that has none."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec.structs import replace

from hidden_frame.checks.finding import Finding, Way
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.index import marked
from hidden_frame.edit.text.index import change_marks
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import IndexMark


def term_findings(composition: Composition) -> Iterator[Finding]:
    """One for each term and what it sends to, in the order of the pages."""
    marks = marked(composition)
    if not any(m.mark.see or m.mark.see_also for m in marks):
        return
    known = {name for m in marks for name in named(m.mark)}
    pages = {f.position: page for page, f in composition.facts.items()}
    seen: set[tuple[str, str]] = set()
    for mark, position in marks:
        for says, there in (("see", mark.see), ("see also", mark.see_also)):
            if not there or there in known or (mark.term, there) in seen:
                continue
            seen.add((mark.term, there))
            page = pages[position]
            yield Finding(
                "lost term",
                f"The index says “{mark.term}, {says} {there}”, but “{there}” has no entry; "
                "mark it somewhere, or delete this.",
                page, (page,), (Way("Take it out", _without(mark.term, there)),),
            )  # fmt: skip


def named(mark: IndexMark) -> tuple[str, ...]:
    """The names under which a mark's entry can be looked up: a term, or a term with its sub-term.
    A mark that only sends elsewhere is no entry to be sent to."""
    if mark.see:
        return ()
    return (mark.term, f"{mark.term}, {mark.sub}") if mark.sub else (mark.term,)


def _without(term: str, there: str):  # type: ignore[no-untyped-def]
    """What takes out that a term sends somewhere."""

    def new(mark: IndexMark) -> IndexMark | None:
        if mark.term != term or there not in (mark.see, mark.see_also):
            return mark
        if mark.see == there:
            return None
        return replace(mark, see_also="")

    def fix(publication: Publication) -> Publication:
        return change_marks(publication, new)

    return fix
