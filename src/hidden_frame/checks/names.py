"""Names that lead nowhere: families that are not here, details without markers and the reverse."""

from __future__ import annotations

from collections.abc import Iterator

from hidden_frame.checks.finding import Finding, Fix, Way
from hidden_frame.edit.about import remove_detail, set_detail
from hidden_frame.edit.change import change_texts
from hidden_frame.edit.text.fonts import families_used
from hidden_frame.edit.text.write import without_markers
from hidden_frame.model.lookup import all_pages, base_chain, masters_by_id, positions, stack_of
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Marker
from hidden_frame.model.usage import head_styles_in, texts_of
from hidden_frame.typeset.fonts import DEFAULT_FAMILY, font_book


def missing_families(publication: Publication) -> Iterator[Finding]:
    """Families of fonts that the publication uses and that are not on this machine."""
    book = font_book()
    for family, holders in families_used(publication).items():
        if book.knows(family):
            continue
        pages = _pages_with(publication, holders)
        reason = book.refused.get(family, "")
        why = f"{reason}" if reason else "is not on this machine"
        yield Finding(
            "missing font",
            f"The font “{family}” {why}; its texts{_on(publication, pages)} use "
            f"{DEFAULT_FAMILY} until it is installed.",
            pages[0] if pages else None, pages, asks=family,
        )  # fmt: skip


def pages_in_words(publication: Publication, pages: tuple[str, ...]) -> str:
    """“page #4 is”, “pages #4, #9 and 12 more are”, “nothing is” by position."""
    order = positions(publication)
    if not pages:
        return "nothing is"
    if len(pages) == 1:
        return f"page #{order[pages[0]]} is"
    if len(pages) == len(order):
        return "all pages are"
    named = ", ".join(f"#{order[p]}" for p in pages[:3])
    more = f" and {len(pages) - 3} more" if len(pages) > 3 else ""
    return f"pages {named}{more} are"


def _on(publication: Publication, pages: tuple[str, ...]) -> str:
    words = pages_in_words(publication, pages).rpartition(" ")[0]
    return f" on {words}" if pages else ""


def _pages_with(publication: Publication, holders: set[str]) -> tuple[str, ...]:
    """The pages that are, or that follow, one of these holders, in order."""
    masters = masters_by_id(publication)
    families = {m: {x.id for x in base_chain(publication, m)} for m in masters}
    found = []
    for page in all_pages(publication):
        stack = set().union(*(families.get(m, set()) for m in stack_of(publication, page)))
        if page.id in holders or stack & holders:
            found.append(page.id)
    return tuple(found)


@remembered()
def _details_shown(publication: Publication) -> dict[str, set[str]]:
    """The holders of the markers that show each detail."""
    shown: dict[str, set[str]] = {}
    for holder, text in texts_of(publication):
        for paragraph in text:
            for piece in paragraph.content:
                if isinstance(piece, Marker) and piece.shows == "detail":
                    shown.setdefault(piece.detail or "", set()).add(holder)
    return shown


def detail_findings(publication: Publication) -> Iterator[Finding]:
    """Details that no marker shows, and markers of details that are gone."""
    shown = _details_shown(publication)
    known = [d.name for d in publication.details]
    for name in known:
        if name not in shown:
            yield Finding(
                "idle detail", f"No marker shows the detail “{name}”.",
                ways=(Way("Remove the detail", _without(name)),),
            )  # fmt: skip
    for name, holders in shown.items():
        if name not in known:
            pages = _pages_with(publication, holders)
            ways = [Way(f"Make the detail “{name}”", _made(name))] if name else []
            ways.append(Way("Take its markers out", _unmarked(name)))
            named = f"“{name}”" if name else "without a name"
            yield Finding(
                "lost detail",
                f"A marker shows the detail {named}, which does not exist; "
                f"{pages_in_words(publication, pages)} concerned.",
                pages[0] if pages else None, pages, tuple(ways),
            )  # fmt: skip


def head_findings(publication: Publication) -> Iterator[Finding]:
    """Running heads of a style that is gone, or that no page uses."""
    shown: dict[str, set[str]] = {}
    used: set[str] = set()
    masters = masters_by_id(publication)
    for holder, text in texts_of(publication):
        for style in head_styles_in(text):
            shown.setdefault(style, set()).add(holder)
        for paragraph in () if holder in masters else text:
            used.add(paragraph.style)
            used |= {piece.style for piece in paragraph.content if piece.style}
    names = {s.id: s.name for s in publication.character_styles}
    names |= {s.id: s.name for s in publication.paragraph_styles}
    for style, holders in shown.items():
        if style in used:
            continue
        pages = _pages_with(publication, holders)
        what = f"of the style “{names[style]}”, which no text uses" if style in names else (
            "of a style that does not exist"
        )  # fmt: skip
        yield Finding(
            "idle head",
            f"A running head shows paragraphs {what}, so it stays empty; "
            f"{pages_in_words(publication, pages)} concerned.",
            pages[0] if pages else None, pages,
        )  # fmt: skip


def reference_findings(publication: Publication) -> Iterator[Finding]:
    """References to what is gone, or stands on no page."""
    lost: dict[str, int] = {}
    for holder, text in texts_of(publication):
        for paragraph in text:
            for piece in paragraph.content:
                if isinstance(piece, Marker) and piece.refers and not piece.refers.page:
                    lost[holder] = lost.get(holder, 0) + 1
    names = {s.id: f"The story “{s.name}”" for s in publication.stories}
    names |= {m.id: f"The master “{m.name}”" for m in publication.masters}
    known = positions(publication)
    for holder, count in lost.items():
        who = names.get(holder) or f"Page #{known[holder]}"
        several = "references" if count > 1 else "a reference"
        many = f"{count} {several}" if count > 1 else several
        page = holder if holder in known else None
        yield Finding(
            "lost reference",
            f"{who} has {many} to something that is gone or on no page; “?” is printed. Point "
            "it elsewhere, or delete it.",
            page, (page,) if page else (),
        )  # fmt: skip


def _without(name: str) -> Fix:
    return lambda p: remove_detail(p, name)


def _made(name: str) -> Fix:
    return lambda p: set_detail(p, name, name)


def _unmarked(name: str) -> Fix:
    def gone(marker: Marker) -> bool:
        return marker.shows == "detail" and (marker.detail or "") == name

    return lambda p: change_texts(p, lambda text: without_markers(text, gone))
