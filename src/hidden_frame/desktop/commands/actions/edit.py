"""Cut, copy, paste, delete and select, done to whatever is at work: words, items or pages."""

from __future__ import annotations

from collections.abc import Callable

from hidden_frame.desktop.commands.actions.clipboard import Clipboard
from hidden_frame.desktop.commands.actions.items import ItemActions
from hidden_frame.desktop.commands.actions.page_clipboard import PageClipboard
from hidden_frame.desktop.commands.actions.pages import PageActions
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk


class EditActions:
    """`on_run` says whether the Run has the keyboard."""

    def __init__(
        self, session: Session, desk: Desk, items: ItemActions, pages: PageActions,
        clipboard: Clipboard, page_clipboard: PageClipboard, on_run: Callable[[], bool],
    ) -> None:  # fmt: skip
        self.session, self.desk, self.items, self.pages = session, desk, items, pages
        self.clipboard, self.page_clipboard, self._on_run = clipboard, page_clipboard, on_run

    def can_delete(self) -> bool:
        session = self.session
        if session.editing is not None:
            return False
        return self.items.own() or session.guide is not None or bool(session.pages)

    def delete(self) -> None:
        """Deletes the selected items or guide, or the selected pages if the Run is worked on.

        A page that was clicked only to lay it on the desk is not lost by a key there.
        """
        session = self.session
        if session.items:
            self.items.delete()
        elif session.guide is not None:
            self.items.delete_guide()
        elif session.pages and self.on_pages():
            self.pages.delete()

    def select_all(self) -> None:
        if self.session.editing is not None:
            self.desk.text.select_all()
        elif self.on_pages():
            self.pages.select("all")
        else:
            self.items.select_all()

    def select_none(self) -> None:
        if self.on_pages():
            self.pages.select("none")
        else:
            self.items.select_none()

    def can_copy(self) -> bool:
        session = self.session
        if session.editing is not None:
            return self.desk.text.anchor != self.desk.text.caret
        return bool(session.items) or (bool(session.pages) and self.on_pages())

    def can_cut(self) -> bool:
        session = self.session
        if session.editing is not None:
            return self.can_copy()
        return self.items.own() or (not session.items and bool(session.pages) and self.on_pages())

    def copy(self) -> None:
        """The selected words, or items, or else the selected pages."""
        if self.session.editing is not None:
            self.desk.text.copy()
        elif self.session.items:
            self.clipboard.copy()
        else:
            self.page_clipboard.copy()

    def cut(self) -> None:
        if self.session.editing is not None:
            self.desk.text.cut()
        elif self.session.items:
            self.clipboard.cut()
        else:
            self.page_clipboard.cut()

    def paste_plain(self) -> None:
        """The words on the clipboard: at the caret, or in a frame of their own."""
        if self.session.editing is not None:
            self.desk.text.paste(plain=True)
        else:
            self.clipboard.paste_words()

    def paste(self) -> None:
        if self.session.editing is not None:
            self.desk.text.paste()
        elif self.page_clipboard.holds_pages():
            self.page_clipboard.paste()
        elif self.session.pane == "desk":
            self.clipboard.paste()
        else:
            self.session.noticed.emit("There are no pages on the clipboard; copy some first.")

    def on_pages(self) -> bool:
        """Whether what is done now is done to pages, not to items."""
        return self.session.pane == "flatplan" or self._on_run()
