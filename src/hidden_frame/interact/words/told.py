"""What was done, and what there is, in a sentence.

>>> deleted_in_words(publication, [page])
'Deleted 1 page from Body; it keeps the other 13.'
"""

from __future__ import annotations

from hidden_frame.compose.facts import page_facts
from hidden_frame.compose.followers import direct_followers, followers
from hidden_frame.compose.pictures import effective_resolution
from hidden_frame.edit.about import shows_detail
from hidden_frame.edit.pages.sections import delete_section
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, PictureFrame
from hidden_frame.model.lookup import find_section, section_of
from hidden_frame.model.number_format import decimal
from hidden_frame.model.plural import pages_counted
from hidden_frame.model.publication import Picture, Publication, Section
from hidden_frame.model.usage import texts_of

LOW = 150.0  # pixels to an inch; below it print looks coarse (common practice of the trade)

FOLIOS_PUT_AWAY = (
    "The folios of all masters are removed. Undo, or Folios…, brings them back as they were."
)


def followers_in_words(publication: Publication, master_id: str) -> str:
    """“12 pages, 4 directly”: how many follow a master, and how many have it in their stack."""
    count = len(followers(publication)[master_id])
    direct = len(direct_followers(publication)[master_id])
    words = pages_counted(count)
    return words if direct == count else f"{words}, {direct} directly"


def deleted_in_words(publication: Publication, pages: list[str]) -> str:
    """“Deleted 4 pages from Autumn; it keeps the other 12.”"""
    count = pages_counted(len(pages))
    sections = list(dict.fromkeys(section_of(publication, p).id for p in pages))
    if len(sections) > 1:
        return f"Deleted {count} from {len(sections)} sections."
    section = find_section(publication, sections[0])
    left = len(section.pages) - len(pages)
    name = section.name or "its section"
    if not left:
        return f"Deleted {count}, and {name} with {'it' if len(pages) == 1 else 'them'}."
    return f"Deleted {count} from {name}; it keeps the other {left}."


def removed_detail_in_words(publication: Publication, name: str) -> str:
    """What becomes of the places that show a detail which is to be taken away."""
    value = next((d.value for d in publication.details if d.name == name), "")
    places = sum(
        shows_detail(piece, name)
        for _, text in texts_of(publication)
        for paragraph in text
        for piece in paragraph.content
    )
    if not places:
        return f"Deleted “{name}”; nothing showed it."
    kept = f"“{value}” stays there as plain text" if value else "nothing stood there"
    count = "1 place" if places == 1 else f"{places} places"
    return f"“{name}” is gone; {count} showed it, and {kept}."


def printed_then(publication: Publication, section: Section) -> str:
    """What a section's pages print once its head is gone: “ and print 6 to 10 now”."""
    if not section.pages:
        return ""
    try:
        after = delete_section(publication, section.id, pages=False)
    except Refusal:
        return ""
    before, then = page_facts(publication), page_facts(after)
    ids = [section.pages[0].id, section.pages[-1].id]
    folios = [then[i].folio for i in ids]
    if folios == [before[i].folio for i in ids]:
        return " and print what they did"
    if not all(folios):
        return " and print no folio now"
    span = folios[0] if len(section.pages) == 1 else f"{folios[0]} to {folios[1]}"
    return f" and print {span} now"


def resolution_in_words(picture: Picture | None, item: Item) -> str:
    """“225 ppi as placed: 1600 × 1200 px, printed 181 mm wide”."""
    if picture is None or not isinstance(item, PictureFrame):
        return ""
    found = effective_resolution(picture, item)
    if found is None:
        return "A drawing: sharp at any size"
    across, down = found
    same = abs(across - down) < 0.5
    ppi = decimal(across, 0) if same else f"{decimal(across, 0)} × {decimal(down, 0)}"
    low = "; coarse in print" if min(found) < LOW else ""
    pixels = f"{decimal(picture.width, 0)} × {decimal(picture.height, 0)}"
    return f"{ppi} ppi as placed, of {pixels} px{low}"
