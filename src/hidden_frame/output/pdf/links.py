"""Links from lines of lists to their pages, and the bookmarks of a file."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import pikepdf
from pikepdf import Array, Dictionary, Name

from hidden_frame.compose.composition import Composition
from hidden_frame.compose.contents import entries
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.compose.scene import Placed, Scene, TextPrimitive
from hidden_frame.model.text import Contents
from hidden_frame.typeset.text import PlacedLine

Bookmark = tuple[int, str, str]  # its level, what it says, and the page that it leads to


def link(
    pdf: pikepdf.Pdf, scenes: Sequence[Scene], pages: Sequence[str], bleed: float | None
) -> None:
    """Annotations that lead from lines to pages, as far as these are in the file (ISO 32000-1,
    12.5.6.5)."""
    numbers = {page: number for number, page in enumerate(pages)}
    for number, scene in enumerate(scenes):
        made = [
            pdf.make_indirect(Dictionary(
                Type=Name.Annot, Subtype=Name.Link, Border=[0, 0, 0], Rect=list(rect),
                Dest=Array([pdf.pages[numbers[page]].obj, Name.Fit]),
            ))
            for page, rect in _links_on(scene, scene.bleed if bleed is None else bleed)
            if page in numbers
        ]  # fmt: skip
        if made:
            pdf.pages[number].obj.Annots = Array(made)


def _links_on(scene: Scene, bleed: float) -> Iterator[tuple[str, tuple[float, ...]]]:
    """The page that each linked line leads to, and its box on the sheet, from the foot up."""
    for placed in scene.placed:
        if not placed.printing:
            continue
        for text in placed.drawing.primitives:
            if isinstance(text, TextPrimitive):
                yield from _links_in(placed, text, scene.height + bleed, bleed)


def _links_in(
    placed: Placed, text: TextPrimitive, height: float, bleed: float
) -> Iterator[tuple[str, tuple[float, ...]]]:
    linked = {
        n for n, spec in enumerate(text.text.specs)
        if spec.dress.goes_to or any(span.goes_to for span in spec.spans)
    }  # fmt: skip
    for line in text.text.lines[: text.shown] if linked else ():
        if line.paragraph not in linked:
            continue
        for page, left, right in _stretches(line, text.text.specs[line.paragraph].dress.goes_to):
            corners = [
                placed.matrix.apply(text.x + x, text.y + y)
                for x in (left, right) for y in (line.top, line.bottom)
            ]  # fmt: skip
            xs, ys = [c[0] + bleed for c in corners], [height - c[1] for c in corners]
            yield page, (min(xs), min(ys), max(xs), max(ys))


def _stretches(line: PlacedLine, page: str) -> Iterator[tuple[str, float, float]]:
    """The pages that a line, or words on it, lead to, and from where to where."""
    if page:
        if line.right > line.left:
            yield page, line.left, line.right
        return
    for run in line.runs:
        if run.span.goes_to and run.words:
            right = max(x + word.width for x, word in zip(run.xs, run.words, strict=True))
            yield run.span.goes_to, line.x + min(run.xs), line.x + right


def bookmarks(composition: Composition) -> list[Bookmark]:
    """Sections that have a name, and within them the headings that the publication's contents list
    shows, nested by level."""
    publication, facts = composition.publication, composition.facts
    found: list[Bookmark] = []
    headings = [
        (e.position, 1 + e.level, f"{e.number} {e.text}".strip(), e.page_id)
        for e in entries(composition, listing)
    ] if (listing := _listing(composition)) is not None else []  # fmt: skip
    at = 0
    for section in publication.sections:
        if not section.pages:
            continue
        named = bool(section.name)
        if named:
            found.append((0, section.name, section.pages[0].id))
        last = facts[section.pages[-1].id].position
        while at < len(headings) and headings[at][0] <= last:
            _, level, words, page = headings[at]
            found.append((level if named else level - 1, words, page))
            at += 1
    return found


def _listing(composition: Composition) -> Contents | None:
    """The contents list with the most levels, the first of several: that of the whole."""
    publication = composition.publication
    frames = frames_with_lists(publication.sections)
    there = [f.contents for f in frames if f.contents is not None]
    there += [s.contents for s in publication.stories if s.contents is not None]
    whole = [c for c in there if not c.sections] or there
    return max(whole, key=lambda c: len(c.levels)) if whole else None
