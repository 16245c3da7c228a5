"""What comes of a page of HTML that is pasted into a text: which styles its paragraphs take, what
is to be asked for that, and whether all of its words are there."""

from __future__ import annotations

import re
from collections.abc import Mapping, MutableMapping

from hidden_frame.edit.text.bring import brought, matched
from hidden_frame.edit.text.put import put_paragraphs
from hidden_frame.edit.text.write import put_in
from hidden_frame.interact.hands.likely import heading_styles
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Text, TextPlace
from hidden_frame.storage.manuscripts.manuscript import Manuscript

HERE = "as here"  # instead of a style's id: that of the paragraph it is put into
_PLAIN = {"Normal", "List continue"}  # what says nothing of what it is
_HEADING = re.compile(r"Heading ([1-6])")
_LEAST = 0.9  # of the plain words, that are to be found in the page


def styles_for(
    publication: Publication, names: list[str], remembered: Mapping[str, str]
) -> tuple[dict[str, str], list[str]]:
    """For each style of a page the style it takes (an id, `HERE`, or "" for a new one), and those
    that nobody has said anything of yet.

    `remembered` are names of styles, "" for `HERE`, by the names of those that they were for.
    """
    known = {s.name: s.id for s in publication.paragraph_styles}
    found, heads = matched(publication, names), heading_styles(publication)
    asked: list[str] = []
    for name in names:
        if name in _PLAIN:
            found[name] = HERE
        elif name in remembered and (not remembered[name] or remembered[name] in known):
            found[name] = known.get(remembered[name], HERE)
        elif not found[name]:
            asked.append(name)
            level = _HEADING.fullmatch(name)
            if level is not None:
                at = int(level[1]) - 1
                found[name] = heads[at] if at < len(heads) else ""
            elif name in ("Table", "Preformatted"):
                found[name] = HERE
    return found, asked


def all_there(manuscript: Manuscript, plain: str) -> bool:
    """Whether what was read of a page has the words that came beside it without any looks."""
    wanted = sum(not c.isspace() for c in plain)
    found = sum(not c.isspace() for p in manuscript.paragraphs for c in p.text)
    return found >= wanted * _LEAST - 8


def pasted(
    publication: Publication,
    text: Text,
    place: TextPlace,
    manuscript: Manuscript,
    matches: Mapping[str, str],
    blobs: MutableMapping[str, bytes],
) -> tuple[Publication, Text, TextPlace]:
    """The publication with the styles and pictures that a page needs, the text with its paragraphs,
    and where they end."""
    here = text[place[0]].style
    chosen = {name: here if style == HERE else style for name, style in matches.items()}
    publication, piece = brought(publication, manuscript, chosen, blobs)
    if not piece:
        return publication, text, place
    plain = [p.style in _PLAIN for p in manuscript.paragraphs]
    if len(piece) == 1 and plain[0] and not manuscript.paragraphs[0].starts:  # a few words
        return publication, *put_in(text, place, piece)
    return publication, *put_paragraphs(text, place, piece, goes_on=plain[0])
