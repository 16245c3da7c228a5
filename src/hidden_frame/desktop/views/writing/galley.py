"""The galley: a story as continuous plain text beside the desk, with its own caret for both.

Style names stand in its left margin; at the right, where a page begins, its folio.  What has no
room on a page is on a warm ground.  It is another view of the text that is written on the desk:
keys typed here go the same way, and what is typed there appears here.
"""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QHBoxLayout, QLabel, QToolButton, QVBoxLayout, QWidget

from hidden_frame.desktop.state.session import Session
from hidden_frame.desktop.views.writing.galley_text import GalleyText
from hidden_frame.desktop.views.writing.mouse import TextMouse
from hidden_frame.desktop.views.writing.text_edit import TextEdit


class Galley(QWidget):
    """Follows the story that one writes in; stays with the last one otherwise."""

    closed = Signal()
    alone = Signal(bool)  # whether it stands instead of the desk

    def __init__(self, session: Session, writing: TextEdit, mouse: TextMouse) -> None:
        super().__init__()
        self.session, self.writing = session, writing
        self.setObjectName("Panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.text = GalleyText(session, writing, mouse)
        self.name = QLabel()
        self.name.setObjectName("Heading")
        self.signs = QToolButton()
        self.signs.setText("¶")
        self.signs.setCheckable(True)
        self.signs.setToolTip("Show spaces, tabs and ends of paragraphs")
        self.wide = QToolButton()
        self.wide.setText("Wide")
        self.wide.setCheckable(True)
        self.wide.setToolTip("The galley instead of the desk")
        self.close_button = QToolButton()
        self.close_button.setText("✕")
        self.close_button.setToolTip("Close the galley")
        row = QHBoxLayout()
        row.addWidget(self.name, 1)
        row.addWidget(self.wide)
        row.addWidget(self.signs)
        row.addWidget(self.close_button)
        column = QVBoxLayout(self)
        column.setContentsMargins(8, 6, 8, 8)
        column.addLayout(row)
        column.addWidget(self.text, 1)
        self.signs.toggled.connect(self.text.show_signs)
        self.wide.toggled.connect(self.alone)
        self.close_button.clicked.connect(self.closed)
        session.changed.connect(self.refresh)
        session.looked.connect(self.refresh)
        writing.moved.connect(self.text.take_caret)

    def showEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        super().showEvent(event)
        self.refresh()

    def refresh(self) -> None:
        """Takes up the story's text, paragraph by paragraph, where it changed."""
        if not self.isVisible():
            return
        told = self.writing.told()
        if told is not None:
            self.text.story_id = told.story.id
        stories = {s.id: s for s in self.session.publication.stories}
        if self.text.story_id not in stories:
            self.text.story_id = next(iter(stories), "")
        story = stories.get(self.text.story_id)
        self.name.setText(story.name.upper() if story is not None else "NO STORY YET")
        here = told is not None and story is not None and told.story.id == story.id
        self.text.take(self.writing.text if here else story.text if story is not None else ())
