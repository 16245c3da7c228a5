"""Index marks put into texts, taken out, and put behind every place where words stand."""

from __future__ import annotations

from collections.abc import Callable

from msgspec.structs import replace

from hidden_frame.edit.change import change_texts
from hidden_frame.edit.text.write import insert_marker, object_at
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import IndexMark, Text, TextPlace


def mark_all(text: Text, words: str, mark: IndexMark) -> tuple[Text, int]:
    """A mark behind every whole word (or words) of a text that has none like it there, and how many
    were put in; capitals count as small letters.

    >>> from hidden_frame.model.text import Paragraph, Run
    >>> text = (Paragraph("body", (Run("Vega, then vega."),)),)
    >>> mark_all(text, "Vega", IndexMark("Vega"))[1]
    2
    """
    from hidden_frame.edit.text.find import Query, hits  # loads `regex`, when it is needed

    found = list(hits(text, Query(words, whole=True)))
    count = 0
    for hit in reversed(found):
        behind = (hit.paragraph, hit.end)
        if not _marked(text, behind, mark):
            text, _ = insert_marker(text, behind, mark)
            count += 1
    return text, count


def _marked(text: Text, place: TextPlace, mark: IndexMark) -> bool:
    """Whether the same mark stands behind a place, perhaps behind others."""
    number, at = place
    while isinstance(found := object_at(text, (number, at)), IndexMark):
        if found == mark:
            return True
        at += 1
    return False


def change_marks(
    publication: Publication, new: Callable[[IndexMark], IndexMark | None]
) -> Publication:
    """Every index mark changed, or taken out where None is given."""

    def text(old: Text) -> Text:
        if not any(isinstance(c, IndexMark) for p in old for c in p.content):
            return old
        return tuple(
            replace(p, content=tuple(
                c if not isinstance(c, IndexMark) else made
                for c in p.content
                if not isinstance(c, IndexMark) or (made := new(c)) is not None
            ))
            for p in old
        )  # fmt: skip

    return change_texts(publication, text)


def rename_term(publication: Publication, term: str, sub: str, name: str) -> Publication:
    """A term, or a sub-term of it, under another name, wherever it is marked or sent to."""
    was = f"{term}, {sub}" if sub else term
    now = f"{term}, {name}" if sub else name

    def sent(there: str) -> str:
        if there == was:
            return now
        return now + there[len(was) :] if not sub and there.startswith(f"{was}, ") else there

    def new(mark: IndexMark) -> IndexMark:
        made = replace(mark, see=sent(mark.see), see_also=sent(mark.see_also))
        if made.term != term or (sub and made.sub != sub):
            return mark if made == mark else made
        return replace(made, sub=name) if sub else replace(made, term=name)

    return change_marks(publication, new)
