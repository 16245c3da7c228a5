"""Which style is most likely meant where one is to be chosen."""

from __future__ import annotations

from collections import Counter

from hidden_frame.model.lookup import masters_by_id
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_paragraphs
from hidden_frame.model.text import Run
from hidden_frame.model.usage import texts_of


def styles_on_pages(publication: Publication) -> Counter[str]:
    """How many paragraphs of each style stand on pages, not on masters."""
    masters = masters_by_id(publication)
    return Counter(
        paragraph.style
        for holder, text in texts_of(publication) if holder not in masters
        for paragraph in text
    )  # fmt: skip


def likely_heading(publication: Publication) -> str:
    """The largest style that stands on pages more than once; failing that, the largest there."""
    used = styles_on_pages(publication)
    known = computed_paragraphs(publication.paragraph_styles)
    often = [s for s, count in used.items() if count > 1 and s in known]
    among = often or [s for s in used if s in known] or list(known)
    return max(among, key=lambda s: known[s].size)


def first_heading(publication: Publication) -> str:
    """The style of a heading that is in use: one that has a level before one that is only larger,
    the highest first; "" where there is none."""
    known = computed_paragraphs(publication.paragraph_styles)
    found = heading_styles(publication)
    return min(found, key=lambda s: (not known[s].level, known[s].level), default="")


def likely_title(publication: Publication) -> str:
    """The style for the title of a list: the largest that stands on pages and counts nothing."""
    known = computed_paragraphs(publication.paragraph_styles)
    plain = [s.id for s in known.values() if s.number is None]
    used = styles_on_pages(publication)
    among = [s for s in plain if s in used] or plain or list(known)
    return max(among, key=lambda s: known[s].size)


def _usual(publication: Publication) -> str:
    """The style that most letters on pages are set in; "" where there are none."""
    masters = masters_by_id(publication)
    letters: Counter[str] = Counter()
    for holder, text in texts_of(publication):
        if holder not in masters:
            for paragraph in text:
                said = (c.text for c in paragraph.content if isinstance(c, Run))
                letters[paragraph.style] += sum(map(len, said))
    return max(letters, key=lambda s: letters[s], default="")


def heading_styles(publication: Publication) -> list[str]:
    """The styles of headings, the highest first: those that have a level, or are larger than what
    most text is set in."""
    used = styles_on_pages(publication)
    known = computed_paragraphs(publication.paragraph_styles)
    there = [s for s in used if s in known]
    if not there:
        return []
    usual = known[_usual(publication) or there[0]].size
    larger = [s for s in there if known[s].level or (known[s].size > usual and used[s] > 1)]
    return sorted(larger, key=lambda s: (-known[s].size, known[s].level))[:3]
