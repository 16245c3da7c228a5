"""What the clipboard, or a drop, puts at the caret."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QMimeData

from hidden_frame.desktop.look.settings import settings
from hidden_frame.desktop.views.desk.items_mime import anchorable
from hidden_frame.desktop.views.writing.mime import own_words
from hidden_frame.edit.text import write as edit_text
from hidden_frame.interact.hands.pasting import all_there, pasted, styles_for
from hidden_frame.model.errors import Refusal
from hidden_frame.model.publication import Publication
from hidden_frame.storage.door import door
from hidden_frame.storage.manuscripts.manuscript import LEVELS, Manuscript

if TYPE_CHECKING:
    from hidden_frame.desktop.views.writing.text_edit import TextEdit

MOST = 8_000_000  # characters of HTML that are read with their looks
# The choice of styles for some of a page's, with what is likely; None if nothing shall be pasted.
Asked = Callable[[Publication, dict[str, str], list[str]], dict[str, str] | None]


class Pasting:
    """Words with what they look like, as far as it is known here; a picture is anchored."""

    def __init__(self, edit: TextEdit) -> None:
        self._edit = edit
        self.ask: Asked = lambda publication, likely, asked: likely

    def put(self, data: QMimeData) -> None:
        """What it is: something of ours, a page of HTML, or plain words."""
        edit = self._edit
        parcel = anchorable(data)
        if parcel is not None and edit.anchors.put_item(parcel):
            return
        text = edit.text
        piece = own_words(
            data, edit.session.publication, text[edit.caret[0]].style, whole=edit.told() is not None
        )
        if piece is not None:
            if edit.has_room(edit_text.total(piece)):
                text, place = edit.without_selection()
                edit.change("paste text", *edit_text.put_in(text, place, piece))
                edit.session.seal()
        elif not (data.hasHtml() and self._put_page(data)):
            self.put_plain(data)

    def put_plain(self, data: QMimeData) -> None:
        """The words alone, dressed as what stands before them."""
        self._edit.insert(data.text(), merge="")
        self._edit.session.seal()

    def _put_page(self, data: QMimeData) -> bool:
        """A page of HTML; False where its words are to come without their looks."""
        edit, session = self._edit, self._edit.session
        page = data.html()
        if len(page) > MOST:
            session.noticed.emit(
                f"What was copied is longer than {MOST // 1_000_000} million characters with "
                "its formatting; only its text was pasted."
            )
            return False
        source = _read(page)
        flat = source is None or source.left.get(LEVELS)
        if source is None or flat or not all_there(source, data.text() if data.hasText() else ""):
            session.noticed.emit(
                "The formatting of what was copied can’t be read; only its text was pasted."
            )
            return False
        if not source.paragraphs:
            return False
        told = edit.told() is not None
        source = source.with_live_notes() if told else source.with_notes_at_end()
        if not edit.has_room(sum(len(p.text) + 1 for p in source.paragraphs)):
            return True
        now = session.history.now
        likely, asked = styles_for(now, source.styles, dict(settings().now.pasted_styles))
        chosen = self.ask(now, likely, asked) if asked else likely
        if chosen is None:
            return True
        text, place = edit.without_selection()
        blobs: dict[str, bytes] = {}
        made, text, place = pasted(now, text, place, source, chosen, blobs)
        session.blobs.update(blobs)
        edit.change("paste text", text, place, before=lambda _: made)
        session.seal()
        return True


def _read(page: str) -> Manuscript | None:
    from hidden_frame.storage.manuscripts.hypertext import read_html  # needed late

    try:
        with door("What was copied"):
            return read_html(page, "clipboard")
    except Refusal:
        return None
