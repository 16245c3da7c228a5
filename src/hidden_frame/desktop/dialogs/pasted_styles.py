"""Which styles the headings, lists and quotations of a pasted page take: asked once."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from hidden_frame.desktop.dialogs.base import Question
from hidden_frame.desktop.fields.fields import Choice
from hidden_frame.desktop.look.settings import settings
from hidden_frame.interact.hands.pasting import HERE
from hidden_frame.model.publication import Publication

_NEW = "a new style of this name"


class PastedStyles(Question):
    """A row for each style that nobody has said anything of; `chosen` is what came of it."""

    def __init__(
        self,
        parent: QWidget | None,
        publication: Publication,
        likely: dict[str, str],
        asked: list[str],
    ) -> None:
        super().__init__(parent, "Paste", "Paste")
        self.chosen: dict[str, str] | None = None
        self._publication, self._likely = publication, likely
        self.form.note("These styles come with the copied text. Your choice is remembered.")
        styles: list[tuple[str, object]] = [(s.name, s.id) for s in publication.paragraph_styles]
        self.choices: dict[str, Choice] = {}
        for name in asked:
            choice = Choice(name)
            options = [("like the paragraph at the caret", HERE), (_NEW, ""), *styles]
            choice.show_choice(options, likely[name])
            self.form.row(name, choice)
            self.choices[name] = choice
        self.finish()

    def answer(self) -> None:
        said = {name: str(choice.value() or "") for name, choice in self.choices.items()}
        self.chosen = self._likely | said
        names = {s.id: s.name for s in self._publication.paragraph_styles}
        names |= {HERE: ""}
        kept = dict(settings().now.pasted_styles)
        # A new style is found by its name the next time.
        kept |= {name: names[style] for name, style in said.items() if style in names}
        settings().change(pasted_styles=tuple(sorted(kept.items()))[-200:])


def ask_styles(
    parent: QWidget, publication: Publication, likely: dict[str, str], asked: list[str]
) -> dict[str, str] | None:
    """What was chosen; None if nothing is to be pasted."""
    dialog = PastedStyles(parent, publication, likely, asked)
    dialog.exec()
    return dialog.chosen
