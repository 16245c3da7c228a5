"""What a publication says of itself: its title, its author, and details that markers show."""

from __future__ import annotations

from msgspec.structs import replace

from hidden_frame.edit.change import change_texts
from hidden_frame.edit.masters.apply import free_name
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Detail, Publication
from hidden_frame.model.text import Marker, Piece, Run, Text


def set_detail(publication: Publication, name: str, value: str) -> Publication:
    """A detail's value, shown by every marker that names it; a new name adds it."""
    clean = " ".join(name.split())
    if not clean:
        raise Refusal("The detail has no name; give it one, for example Issue.", field="name")
    if any(d.name == clean for d in publication.details):
        details = tuple(Detail(clean, value) if d.name == clean else d for d in publication.details)
        if details == publication.details:
            return publication
    else:
        details = (*publication.details, Detail(clean, value))
    return replace(publication, details=details)


def remove_detail(publication: Publication, name: str) -> Publication:
    """A detail taken away; markers that show it become the words that they showed.

    >>> edited = set_detail(publication, "Issue", "Spring")
    >>> [d.name for d in remove_detail(edited, "Issue").details]
    []
    """
    known = {d.name: d.value for d in publication.details}
    if name not in known:
        return publication

    def words(piece: Piece) -> tuple[Piece, ...]:
        if not shows_detail(piece, name):
            return (piece,)
        return (Run(known[name], piece.style, piece.look),) if known[name] else ()

    def text(old: Text) -> Text:
        return tuple(replace(p, content=tuple(w for c in p.content for w in words(c))) for p in old)

    kept = tuple(d for d in publication.details if d.name != name)
    return replace(change_texts(publication, text), details=kept)


def shows_detail(piece: Piece, name: str) -> bool:
    """Whether a piece of text is a marker of this detail."""
    return isinstance(piece, Marker) and piece.shows == "detail" and piece.detail == name


def new_detail_name(publication: Publication, wanted: str = "Detail") -> str:
    return free_name(wanted, (d.name for d in publication.details))


def set_title(publication: Publication, title: str) -> Publication:
    return replace(publication, title=title) if title != publication.title else publication


def set_about(publication: Publication, **changes: object) -> Publication:
    """What the publication says of itself: author, subject, keywords, language.

    >>> set_about(publication, author="Kestrel Ridge Observatory").about.author
    'Kestrel Ridge Observatory'
    """
    about = replace(publication.about, **changes)
    return publication if about == publication.about else replace(publication, about=about)


def add_word(publication: Publication, word: str) -> Publication:
    """A word of the publication's own: its spelling is right.

    >>> add_word(publication, " Deneb ").about.words
    ('Deneb',)
    """
    clean = " ".join(word.split())
    if not clean or len(clean) > 100:
        raise Refusal(
            "A word of the publication has 1 to 100 letters; type one that is shorter.",
            field="word",
        )
    words = publication.about.words
    return set_about(publication, words=tuple(sorted({*words, clean}, key=_by_letters)))


def remove_word(publication: Publication, word: str) -> Publication:
    """A word that is no longer one of the publication's own."""
    return set_about(publication, words=tuple(w for w in publication.about.words if w != word))


def _by_letters(word: str) -> tuple[str, str]:
    return word.casefold(), word


def rename_detail(publication: Publication, name: str, new: str) -> Publication:
    """A detail under another name; the markers that show it go along."""
    clean = " ".join(new.split())
    if clean == name:
        return publication
    if not clean or any(d.name == clean for d in publication.details):
        raise Refusal(
            f"A detail can't be named “{clean}”; choose a name that is not in use.", field="name"
        )

    def marker(piece: Piece) -> Piece:
        return replace(piece, detail=clean) if shows_detail(piece, name) else piece

    def text(old: Text) -> Text:
        return tuple(replace(p, content=tuple(marker(c) for c in p.content)) for p in old)

    details = tuple(Detail(clean, d.value) if d.name == name else d for d in publication.details)
    return replace(change_texts(publication, text), details=details)
