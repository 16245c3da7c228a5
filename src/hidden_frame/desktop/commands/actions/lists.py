"""Lists that the program keeps: contents, index, notes; each in a frame, asked for by a dialog."""

from __future__ import annotations

from functools import partial
from typing import TYPE_CHECKING

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.edit.text.listing import note_style, set_list
from hidden_frame.interact.finds.listing import ListPlace, place_for_list
from hidden_frame.interact.hands.likely import likely_heading
from hidden_frame.model.publication import Publication
from hidden_frame.model.text import Contents, Index, NoteList, TextPlace

if TYPE_CHECKING:
    from PySide6.QtWidgets import QWidget

    from hidden_frame.desktop.dialogs.contents import ContentsDialog
    from hidden_frame.desktop.dialogs.index import IndexPanel


class ListActions:
    """Lists put in the selected frame, or in a new one on the page on the desk."""

    def __init__(self, session: Session, desk: Desk, window: QWidget) -> None:
        self.session, self.desk, self.window = session, desk, window
        self._index: IndexPanel | None = None

    def contents(self) -> ContentsDialog | None:
        """A contents list in the selected frame, or in a new one on the page on the desk."""
        from hidden_frame.desktop.dialogs.contents import ContentsDialog

        session = self.session
        page, frame = session.page_id, self._place_for_list()
        if frame is None:
            return None
        contents = frame.now if isinstance(frame.now, Contents) else None
        dialog = ContentsDialog(session, self.window, page, frame, contents)
        session.select_items(None, (frame.item,))
        dialog.open()
        return dialog

    def list_here(self) -> None:
        """The list that the selected frame shows, to be changed."""
        frame = self._place_for_list()
        if frame is None:
            return
        if isinstance(frame.now, Index):
            self.put_index()
        elif isinstance(frame.now, NoteList):
            self.put_notes()
        else:
            self.contents()

    def put_notes(self) -> None:
        """All notes in the selected frame, or in a new one on the page on the desk."""
        from hidden_frame.desktop.dialogs.lists import NoteListDialog

        frame = self._place_for_list("List of notes")
        if frame is None:
            return
        now, publication = frame.now, self.session.history.now
        if isinstance(now, NoteList):
            put = partial(self._put_list, "list of notes", frame)
            NoteListDialog(self.window, publication, now, "Apply", put).exec()
            return
        made, style = note_style(frame.made or publication, publication.paragraph_styles[0].id)
        self._put_list("list of notes", frame._replace(made=made), NoteList(shown=style))

    def put_index(self) -> None:
        """The index in the selected frame, or in a new one on the page on the desk."""
        from hidden_frame.desktop.dialogs.lists import IndexListDialog

        frame = self._place_for_list("Index")
        if frame is None:
            return
        now, publication = frame.now, self.session.history.now
        if not isinstance(now, Index):
            body = publication.paragraph_styles[0].id
            now = Index(shown=body, letters=likely_heading(publication))
        put = partial(self._put_list, "the index", frame)
        action = "Apply" if frame.now == now else "Put it there"
        IndexListDialog(self.window, publication, now, action, put).exec()

    def _place_for_list(self, name: str = "Contents") -> ListPlace | None:
        """The selected frame, or a new one on the page on the desk; told if there can be none."""
        session = self.session
        session.edit_text(None)
        page = session.page_id if session.mode == "pages" else ""
        found = place_for_list(session.composition, page, session.items, name)
        if isinstance(found, str):
            session.noticed.emit(found)
            return None
        return found

    def _put_list(self, label: str, frame: ListPlace, listed: Index | NoteList) -> None:
        page = self.session.page_id

        def change(publication: Publication) -> Publication:
            made = frame.made if frame.made is not None else publication
            return set_list(made, page, frame.item, listed)

        if self.session.edit(label, change):
            self.session.select_items(None, (frame.item,))

    def index_panel(self) -> IndexPanel:
        """The panel of all terms; it stays while one works."""
        from hidden_frame.desktop.dialogs.index import IndexPanel

        if self._index is None:
            self._index = IndexPanel(self.session, self.window, self._show_mark, self.put_index)
        self._index.show()
        self._index.raise_()
        self._index.refresh(True)
        return self._index

    def _show_mark(self, story: str, place: TextPlace) -> bool:
        behind = place[0], place[1] + 1
        self.session.edit_text(None)
        return self.desk.text.write_at(story, behind, place)
