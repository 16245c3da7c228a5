"""What shall take the place of a style that is deleted while it is in use."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.pages import EditQuestion
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.looks.styles import style_uses
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle


class DeleteStyleDialog(EditQuestion):
    """Says in how many places it is used, and asks for another one."""

    def __init__(
        self,
        session: Session,
        style: ParagraphStyle | CharacterStyle,
        options: list[tuple[str, Any]],
        deleted: Callable[[Publication, str, Any], Publication],
        parent: QWidget | None = None,
    ) -> None:
        super().__init__(session, parent, f"Delete the style {style.name}", "Delete")
        self.gone, self.deleted = style, deleted
        count = style_uses(session.history.now, style.id)
        kind = "paragraph" if isinstance(style, ParagraphStyle) else "stretch of text"
        many = kind.replace("stretch", "stretches") if " " in kind else f"{kind}s"
        places = f"1 {kind} is" if count == 1 else f"{count} {many} are"
        self.form.note(f"{places} set in it. Which style should replace it?")
        self.instead = Choice("Instead")
        self.instead.show_choice(options, options[0][1])
        self.form.row("Instead", self.instead)
        self.finish()

    def answer(self) -> None:
        instead = self.instead.value()
        self.edit(
            f"delete style {self.gone.name}", lambda p: self.deleted(p, self.gone.id, instead)
        )
