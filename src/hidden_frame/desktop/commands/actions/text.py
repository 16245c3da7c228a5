"""Commands on the text being edited."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtWidgets import QInputDialog

from hidden_frame.desktop.dialogs.picture_files import PictureDialog
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.interact.hands.anchoring import anchor_item
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import PictureFrame, TextFrame
from hidden_frame.model.lookup import holder
from hidden_frame.model.text import Marker, Starts
from hidden_frame.storage.pictures import read_picture


class TextActions:
    """Each method is one command; the caret stays in the text."""

    def __init__(self, session: Session, desk: Desk) -> None:
        self.session = session
        self.desk = desk

    def editing(self) -> bool:
        return self.session.editing is not None

    def toggle(self, name: str) -> None:
        """Bold or italic, on or off."""
        self.desk.text.dress.toggle(name)
        self.desk.setFocus()

    def style(self, number: int) -> None:
        """The paragraph in the style at this place of the list, counted from 1."""
        styles = self.session.publication.paragraph_styles
        if number <= len(styles):
            self.desk.text.dress.set_paragraph_style(styles[number - 1].id)
            self.desk.setFocus()

    def has_style(self, number: int) -> bool:
        return self.editing() and number <= len(self.session.publication.paragraph_styles)

    def style_name(self, number: int) -> str:
        styles = self.session.publication.paragraph_styles
        name = styles[number - 1].name if number <= len(styles) else "–"
        return f"Paragraph style “{name}”"

    def two_ends(self) -> None:
        self.desk.text.dress.split_ends()
        self.desk.setFocus()

    def break_here(self, starts: Starts) -> None:
        """What follows the caret goes on in another frame or on another page."""
        self.desk.text.dress.break_here(starts)
        self.desk.setFocus()

    def no_break(self) -> None:
        self.desk.text.dress.set_starts(None)
        self.desk.setFocus()

    def counts(self) -> bool:
        """Whether the paragraph that is edited has a number."""
        return self.editing() and self.desk.text.dress.counts()

    def count_anew(self) -> None:
        """The paragraph's list begins anew: with 1, or goes on where it did."""
        dress = self.desk.text.dress
        dress.set_count_from(1 if dress.count_from() is None else None)
        self.desk.setFocus()

    def counts_anew(self) -> bool:
        return self.counts() and self.desk.text.dress.count_from() is not None

    def count_from(self) -> None:
        """The paragraph's list begins anew with a number that is asked for."""
        dress = self.desk.text.dress
        number, wanted = QInputDialog.getInt(
            self.desk.window(), "Count from", "The number of this paragraph:",
            dress.count_from() or 1, 1, 1_000_000,
        )  # fmt: skip
        if wanted:
            dress.set_count_from(number)
        self.desk.setFocus()

    def anchor_picture(self, path: Path | None = None) -> None:
        """A picture file, chosen from the disk, anchored at the caret."""
        if path is None:
            chosen = PictureDialog.ask(self.desk.window(), "Anchor a picture in the text")
            if not chosen:
                return
            path = chosen[0]
        try:
            self.desk.text.anchors.put_picture(*read_picture(path))
        except Refusal as refusal:
            self.session.noticed.emit(str(refusal))
        self.desk.setFocus()

    def anchored(self) -> bool:
        return self.editing() and self.desk.text.anchors.now() is not None

    def free(self) -> None:
        """What is anchored and selected, out of the text onto its page."""
        self.desk.text.anchors.free()

    def can_anchor(self) -> bool:
        """Whether one item of a page's own is selected that is a picture or a caption."""
        session = self.session
        if session.mode != "pages" or len(session.items) != 1 or self.editing():
            return False
        own = holder(session.publication, session.holder_id).items
        item = next((i for i in own if i.id == session.items[0]), None)
        told = item is not None and session.composition.told(session.holder_id, item.id)
        return isinstance(item, PictureFrame | TextFrame) and not told

    def anchor_item(self) -> None:
        """The selected item in the text nearest to it, where it is selected again."""
        session, page = self.session, self.session.holder_id
        try:
            changed, at, place = anchor_item(session.composition, page, session.items[0])
        except Refusal as refusal:
            session.noticed.emit(str(refusal))
            return
        if session.edit("anchor in the text", lambda _: changed):
            face = next(f for f in session.faces() if f.holder_id == page)
            session.select_items(face, (at.frame,))
            told = session.composition.told(page, at.frame)
            if told is None or not self.desk.text.write_at(told.story.id, place):
                self.desk.begin_text()
            self.desk.text.anchors.select(place)

    def marker(self, marker: Marker) -> None:
        self.desk.text.insert_marker(marker)
        self.desk.setFocus()
