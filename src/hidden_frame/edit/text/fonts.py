"""Families of fonts: where they are used, one replaced by another everywhere, and one for single
characters."""

from __future__ import annotations

import re

from msgspec.structs import replace

from hidden_frame.edit.change import change_texts
from hidden_frame.model.memory import remembered
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import computed_characters, computed_paragraphs, own
from hidden_frame.model.text import Look, Piece, Run, Text
from hidden_frame.model.usage import paragraph_styles_in, texts_of


@remembered()
def families_used(publication: Publication) -> dict[str, set[str]]:
    """Each family that a style or a text names, and the pages and masters whose texts show it."""
    paragraphs = {i: s.family for i, s in computed_paragraphs(publication.paragraph_styles).items()}
    characters = {i: s.family for i, s in computed_characters(publication.character_styles).items()}
    used: dict[str, set[str]] = {family: set() for family in paragraphs.values()}
    used |= {family: set() for family in characters.values() if family}
    for holder, text in texts_of(publication):
        for style in paragraph_styles_in(text):
            used[paragraphs[style]].add(holder)
        for paragraph in text:
            for piece in paragraph.content:
                named = characters.get(piece.style or "")
                own = piece.look.family if piece.look is not None else None
                for family in (named, own):
                    if family:
                        used.setdefault(family, set()).add(holder)
    return used


def replace_family(publication: Publication, old: str, new: str) -> Publication:
    """One family for another, in every style and every text; itself if nothing used it."""

    def piece(each: Piece) -> Piece:
        if each.look is None or each.look.family != old:
            return each
        return replace(each, look=replace(each.look, family=new))

    def text(before: Text) -> Text:
        return tuple(replace(p, content=tuple(piece(c) for c in p.content)) for p in before)

    if old == new or old not in families_used(publication):
        return publication
    publication = change_texts(publication, text)
    return replace(
        publication,
        paragraph_styles=tuple(
            replace(s, family=new) if own(s, "family") == old else s
            for s in publication.paragraph_styles
        ),
        character_styles=tuple(
            replace(s, family=new) if s.family == old else s for s in publication.character_styles
        ),
    )


def set_characters(publication: Publication, characters: str, family: str) -> Publication:
    """These characters in a family of their own, in every text; itself if none has any."""
    if not characters:
        return publication
    parting = re.compile(f"([{re.escape(characters)}]+)")

    def pieces(each: Piece) -> list[Piece]:
        if not isinstance(each, Run) or not parting.search(each.text):
            return [each]
        look = replace(each.look or Look(), family=family)
        parts = enumerate(parting.split(each.text))
        return [replace(each, text=t, look=look if n % 2 else each.look) for n, t in parts if t]

    def text(before: Text) -> Text:
        return tuple(
            replace(p, content=tuple(new for c in p.content for new in pieces(c))) for p in before
        )

    return change_texts(publication, text)
