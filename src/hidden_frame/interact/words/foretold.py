"""What a change of the order of pages will do, said before it is done.

>>> from hidden_frame.edit.pages.order import delete_pages
>>> foretell(publication, lambda p: delete_pages(p, [page])).words
'...change sides'
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import NamedTuple

from hidden_frame.compose.facts import PageFacts, page_facts, page_name
from hidden_frame.edit.pages.order import add_pages, place_of
from hidden_frame.edit.pages.ties import tied_pairs
from hidden_frame.interact.hands.halves import Across, in_halves, reaching, tied_where_cut
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Page, Publication

Change = Callable[[Publication], Publication]


class Foretold(NamedTuple):
    """The result of a change, and what is worth knowing of it.

    `turned` are pages that change sides, in their old order; `parted` pairs of tied pages
    that faced each other and will not; `cut` are the items that reach over the spine onto a page
    that will not face theirs; `refused` is why it can't be done, or "", and `field` the argument
    that is at fault for it.
    """

    result: Publication
    turned: tuple[str, ...]
    parted: tuple[tuple[str, str], ...]
    refused: str
    words: str
    cut: tuple[Across, ...] = ()
    field: str = ""


def foretell(publication: Publication, change: Change) -> Foretold:
    """What a change does to sides and tied spreads, without doing it."""
    try:
        result = change(publication)
    except Refusal as refusal:
        return Foretold(publication, (), (), str(refusal), str(refusal), field=refusal.field)
    if result is publication:
        return Foretold(publication, (), (), "", "nothing changes")
    before, after = page_facts(publication), page_facts(result)
    turned = tuple(i for i, f in before.items() if i in after and after[i].side != f.side)
    parted = tuple(
        (a.id, b.id)
        for a, b in tied_pairs(publication)
        if _facing(before, a.id, b.id)
        and a.id in after
        and b.id in after
        and not _facing(after, a.id, b.id)
    )
    cut = tuple(
        each for each in reaching(publication)
        if each.page in after and not (
            each.partner in after and _facing(after, each.page, each.partner)
        )
    )  # fmt: skip
    words = []
    if turned:
        spans = _spans([before[i] for i in turned])
        one = len(turned) == 1
        named = spans if spans.endswith("pages") else f"{'page' if one else 'pages'} {spans}"
        words.append(f"{named} changes sides" if one else f"{named} change sides")
    for a, b in parted:
        words.append(f"the spread {_label(before[a])}–{_label(before[b])} is separated")
    for each in cut:
        many = "1 item reaches" if len(each.items) == 1 else f"{len(each.items)} items reach"
        pages = f"{_label(before[each.page])} onto {_label(before[each.partner])}"
        words.append(f"{many} over the spine from {pages}, which will not face it")
    return Foretold(result, turned, parted, "", "; ".join(words), cut)


def _facing(facts: Mapping[str, PageFacts], a: str, b: str) -> bool:
    return facts[a].spread == facts[b].spread


def _label(facts: PageFacts) -> str:
    return facts.folio or f"#{facts.position}"


def _spans(facts: list[PageFacts]) -> str:
    """“4, 7 and 12–18”, by folio where there is one; beyond four stretches, a count."""
    stretches: list[list[PageFacts]] = []
    for each in facts:
        if stretches and stretches[-1][-1].position == each.position - 1:
            stretches[-1].append(each)
        else:
            stretches.append([each])
    if len(stretches) > 4:
        return f"{len(facts)} pages"
    names = [_label(s[0]) if len(s) == 1 else f"{_label(s[0])}–{_label(s[-1])}" for s in stretches]
    return names[0] if len(names) == 1 else ", ".join(names[:-1]) + " and " + names[-1]


def gap_in_words(publication: Publication, section_id: str, index: int) -> str:
    """Where a gap between pages is: “before 14, in Spring”, “at the end of Spring”."""
    facts = page_facts(publication)
    section = next(s for s in publication.sections if s.id == section_id)
    name = section.name or "its section"
    if index < len(section.pages):
        return f"before {page_name(facts[section.pages[index].id])}, in {name}"
    return f"at the end of {name}"


def kept_together(publication: Publication, foretold: Foretold) -> Publication | None:
    """The change with the one page more that keeps tied spreads together; None if one page
    does not.

    The page is automatic, and put before the first of the pairs that would be parted.
    """
    there = page_facts(foretold.result)
    pairs = [*foretold.parted, *((c.page, c.partner) for c in foretold.cut if c.partner in there)]
    for first, _ in pairs:
        section, index = place_of(foretold.result, first)
        more, _ = add_pages(foretold.result, section, index)
        facts = page_facts(more)
        kept = [(a.id, b.id) for a, b in _pairs_kept(publication, more)] + pairs
        if all(_facing(facts, a, b) for a, b in kept):
            return more
    return None


def gone_on(foretold: Foretold) -> Publication:
    """The change as it is, the pages that it cuts tied, so that checks tell of it."""
    return tied_where_cut(foretold.result, foretold.cut)


def halved(publication: Publication, foretold: Foretold, change: Change) -> Publication | None:
    """The change done to a publication in which the items that would be cut are two halves each,
    on the pages where they are seen; None where that can't be."""
    whole = [each for each in foretold.cut if each.partner in page_facts(foretold.result)]
    cut = in_halves(publication, whole)
    return None if cut is publication else change(cut)


def _pairs_kept(publication: Publication, new: Publication) -> list[tuple[Page, Page]]:
    """The pairs that faced each other before and are both still there."""
    before, after = page_facts(publication), page_facts(new)
    return [
        (a, b)
        for a, b in tied_pairs(publication)
        if _facing(before, a.id, b.id) and a.id in after and b.id in after
    ]
