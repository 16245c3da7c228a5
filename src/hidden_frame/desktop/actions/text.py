"""Commands on the text being edited."""

from __future__ import annotations

from hidden_frame.desktop.desk.canvas import Desk
from hidden_frame.desktop.session import Session
from hidden_frame.model.text import Marker


class TextActions:
    """Each method is one command; the caret stays in the text."""

    def __init__(self, session: Session, desk: Desk) -> None:
        self.session = session
        self.desk = desk

    def editing(self) -> bool:
        return self.session.editing is not None

    def toggle(self, name: str) -> None:
        """Bold or italic, on or off."""
        self.desk.text.toggle(name)
        self.desk.setFocus()

    def style(self, number: int) -> None:
        """The paragraph in the style at this place of the list, counted from 1."""
        styles = self.session.publication.paragraph_styles
        if number <= len(styles):
            self.desk.text.set_paragraph_style(styles[number - 1].id)
            self.desk.setFocus()

    def has_style(self, number: int) -> bool:
        return self.editing() and number <= len(self.session.publication.paragraph_styles)

    def style_name(self, number: int) -> str:
        styles = self.session.publication.paragraph_styles
        name = styles[number - 1].name if number <= len(styles) else "–"
        return f"Paragraph style “{name}”"

    def two_ends(self) -> None:
        self.desk.text.split_ends()
        self.desk.setFocus()

    def marker(self, marker: Marker) -> None:
        self.desk.text.insert_marker(marker)
        self.desk.setFocus()
