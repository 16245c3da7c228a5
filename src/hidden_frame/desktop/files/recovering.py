"""Work that was left behind comes back into the window of its file, as one step."""

from __future__ import annotations

from hidden_frame.desktop.files.journal import Keeper
from hidden_frame.desktop.files.left_bar import LeftBar
from hidden_frame.desktop.files.whereabouts import go_to
from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.desk.canvas import Desk
from hidden_frame.model.errors import Refusal
from hidden_frame.storage.format import Opened
from hidden_frame.storage.recovery import Left


class Recovering:
    """Goes on where one was; undo comes back to what the file holds."""

    def __init__(self, session: Session, desk: Desk, keeper: Keeper, bar: LeftBar) -> None:
        self._session, self._desk, self._keeper, self._bar = session, desk, keeper, bar

    def go_on(self, left: Left, opened: Opened | None = None) -> None:
        """Takes up what was left; it is kept anew before it is taken away there."""
        from hidden_frame.storage.recovery import discard, recovered  # needed late

        session = self._session
        try:
            opened = opened or recovered(left)
        except Refusal as refusal:
            session.noticed.emit(str(refusal))
            return
        if opened.publication == session.history.now:
            session.noticed.emit("The recovered work is identical to the file.")
        else:
            session.blobs.update(opened.blobs)
            made = opened.publication
            if not session.edit("recover unsaved work", lambda _: made):
                return
            session.finish()
            session.stamp = left.about.stamp or session.stamp
            self._keeper.look()
            self._keeper.wait()
        self._bar.leave()
        discard(left)
        if left.about.at is not None:
            go_to(session, self._desk.text, left.about.at)
            self._desk.setFocus()
        for warning in opened.warnings:
            session.noticed.emit(warning)
