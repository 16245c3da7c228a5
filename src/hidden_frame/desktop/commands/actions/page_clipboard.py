"""Pages cut, copied and pasted, within a publication and between two that are open."""

from __future__ import annotations

import msgspec
from PySide6.QtCore import QByteArray, QMimeData, Qt
from PySide6.QtGui import QCursor, QGuiApplication
from PySide6.QtWidgets import QMenu, QWidget

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.pages.order import order_pages
from hidden_frame.edit.carry.pages import (
    PageClip,
    pages_copied,
    pages_pasted,
    section_copied,
    section_pasted,
)
from hidden_frame.edit.pages.order import delete_pages, place_of
from hidden_frame.interact.hands.carried import (
    ALONG,
    Along,
    StoryClip,
    stories_copied,
    stories_pasted,
)
from hidden_frame.interact.hands.places import with_places_here
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import section_of
from hidden_frame.model.publication import Publication
from hidden_frame.storage.door import from_clipboard

PAGES_MIME = "application/x-hidden-frame-pages"


class PageParcel(msgspec.Struct, frozen=True):
    """What goes to the clipboard: pages with what they use, the bytes of their pictures, and the
    stories that flow through them; those are for other publications than the one of `home`."""

    clip: PageClip
    blobs: dict[str, bytes]
    stories: tuple[StoryClip, ...] = ()
    home: str = ""


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
        stories = stories_copied(session.composition, [p.id for p in clip.pages])
        parcel = PageParcel(clip, blobs, stories, session.token)
        data.setData(PAGES_MIME, QByteArray(msgspec.msgpack.encode(parcel)))
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
            parcel = from_clipboard(bytes(data.data(PAGES_MIME).data()), PageParcel)
        except Refusal as refusal:
            session.noticed.emit(str(refusal))
            return
        if parcel.stories and parcel.home != session.token:
            self._ask(parcel)
        else:
            self._paste(parcel, "empty")

    def _ask(self, parcel: PageParcel) -> None:
        """At the pointer, once: what comes along of the stories that flow through the pages."""
        menu = QMenu(self.parent)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        names = [f"“{story.name}”" for story in parcel.stories]
        more = f" and {len(names) - 2} more" if len(names) > 3 else ""
        said = ", ".join(names[:2] if more else names) + more
        flows = "flows" if len(names) == 1 else "flow"
        menu.addAction(f"{said} {flows} through these pages").setEnabled(False)
        menu.addSeparator()
        for title, along in ALONG:
            menu.addAction(title, lambda along=along: self._paste(parcel, along))
        self.asking = menu
        menu.popup(QCursor.pos())

    def _paste(self, parcel: PageParcel, along: Along) -> None:
        session = self.session
        session.blobs.update(parcel.blobs)
        if parcel.clip.whole:
            self._paste_section(parcel, along)
            return
        after = session.pages[-1] if session.pages else session.page_id
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            made.clear()
            place = place_of(publication, after, after=True)
            publication, clip, stories = with_places_here(
                publication, parcel.clip, parcel.stories, along
            )
            publication, ids = pages_pasted(publication, clip, *place)
            made.extend(ids)
            return stories_pasted(publication, stories, ids, along)

        count = len(parcel.clip.pages)
        name = "paste a page" if count == 1 else f"paste {count} pages"
        if order_pages(session, name, change, self.parent):
            session.select_pages(tuple(made))

    def _paste_section(self, parcel: PageParcel, along: Along) -> None:
        """A section that was copied as such, behind the one that is worked in."""
        session = self.session
        page = session.pages[-1] if session.pages else session.page_id
        after = section_of(session.publication, page).id
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, clip, stories = with_places_here(
                publication, parcel.clip, parcel.stories, along
            )
            publication, pages, section_id = section_pasted(publication, clip, after)
            made[:] = [section_id]
            return stories_pasted(publication, stories, pages, along, section_id)

        if order_pages(session, "paste a section", change, self.parent):
            session.select_section(made[0])
