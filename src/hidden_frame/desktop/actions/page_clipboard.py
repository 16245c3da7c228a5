"""Pages cut, copied and pasted, within a publication and between two that are open."""

from __future__ import annotations

import msgspec
from PySide6.QtCore import QByteArray, QMimeData
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.actions.order import order_pages
from hidden_frame.desktop.session import Session
from hidden_frame.edit.carry.pages import (
    PageClip,
    pages_copied,
    pages_pasted,
    section_copied,
    section_pasted,
)
from hidden_frame.edit.pages.order import delete_pages, place_of
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import section_of
from hidden_frame.model.publication import Publication

PAGES_MIME = "application/x-hidden-frame-pages"


class PageParcel(msgspec.Struct, frozen=True):
    """What goes to the clipboard: pages with what they use, and the bytes of their pictures."""

    clip: PageClip
    blobs: dict[str, bytes]


class PageClipboard:
    """Works on the selected pages; pasted ones go behind the last of them."""

    def __init__(self, session: Session, parent: QWidget) -> None:
        self.session = session
        self.parent = parent

    def holds_pages(self) -> bool:
        data = QGuiApplication.clipboard().mimeData()
        return data is not None and data.hasFormat(PAGES_MIME)

    def copy(self) -> bool:
        session = self.session
        try:
            if session.section_id:
                clip = section_copied(session.publication, session.section_id)
            else:
                clip = pages_copied(session.publication, session.pages)
        except Refusal as refusal:
            session.noticed.emit(str(refusal))
            return False
        pictures = {p.hash for p in (*clip.clip.pictures, *clip.masters.clip.pictures)}
        blobs = {h: session.blobs[h] for h in pictures if h in session.blobs}
        data = QMimeData()
        data.setData(PAGES_MIME, QByteArray(msgspec.msgpack.encode(PageParcel(clip, blobs))))
        QGuiApplication.clipboard().setMimeData(data)
        return True

    def cut(self) -> None:
        session = self.session
        pages = session.pages
        count = "1 page" if len(pages) == 1 else f"{len(pages)} pages"
        if self.copy():
            order_pages(
                session, f"cut {count}", lambda p: delete_pages(p, pages), self.parent, None,
                f"Cut {count}.",
            )  # fmt: skip

    def paste(self) -> None:
        session = self.session
        data = QGuiApplication.clipboard().mimeData()
        try:
            parcel = msgspec.msgpack.decode(bytes(data.data(PAGES_MIME).data()), type=PageParcel)
        except msgspec.MsgspecError:
            session.noticed.emit("What was copied can't be read here; copy it again.")
            return
        session.blobs.update(parcel.blobs)
        if parcel.clip.whole:
            self._paste_section(parcel.clip)
            return
        after = session.pages[-1] if session.pages else session.page_id
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            made.clear()
            place = place_of(publication, after, after=True)
            publication, ids = pages_pasted(publication, parcel.clip, *place)
            made.extend(ids)
            return publication

        count = len(parcel.clip.pages)
        name = "paste a page" if count == 1 else f"paste {count} pages"
        if order_pages(session, name, change, self.parent):
            session.select_pages(tuple(made))

    def _paste_section(self, clip: PageClip) -> None:
        """A section that was copied as such, behind the one that is worked in."""
        session = self.session
        page = session.pages[-1] if session.pages else session.page_id
        after = section_of(session.publication, page).id
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, _, section_id = section_pasted(publication, clip, after)
            made[:] = [section_id]
            return publication

        if order_pages(session, "paste a section", change, self.parent):
            session.select_section(made[0])
