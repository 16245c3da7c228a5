"""How the text being edited is dressed: styles, looks, alignment, tab stops."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from hidden_frame.edit.looks.styles import put_paragraph_style
from hidden_frame.edit.text import steps
from hidden_frame.edit.text import write as edit_text
from hidden_frame.edit.text.depart import as_styled, departures, style_of
from hidden_frame.model.lookup import paragraph_style
from hidden_frame.model.styles import CHARACTER_PROPERTIES, computed_characters, computed_style
from hidden_frame.model.text import Alignment, Paragraph, Starts, TabStop, TextPlace
from hidden_frame.model.usage import head_styles_in, texts_of

if TYPE_CHECKING:
    from hidden_frame.desktop.views.writing.written import WrittenText


class TextDress:
    """Dresses what is selected, or stands at the caret."""

    def __init__(self, edit: WrittenText) -> None:
        self.edit = edit

    def set_paragraph_style(self, style: str) -> None:
        start, end = self.edit.selection
        text = edit_text.set_paragraph_style(self.edit.text, start[0], end[0], style)
        self.edit.keep("paragraph style", text)

    def set_look(self, **changes: object) -> None:
        """The selection with some of its look changed; without one, the caret's word."""
        start, end = self._stretch()
        if start == end:
            self.edit.session.noticed.emit("Nothing is selected; select the characters to change.")
            return
        self.edit.keep("character look", edit_text.set_look(self.edit.text, start, end, **changes))

    def _stretch(self) -> tuple[TextPlace, TextPlace]:
        start, end = self.edit.selection
        return steps.word_around(self.edit.text, start) if start == end else (start, end)

    def set_alignment(self, alignment: Alignment | None) -> None:
        """The selected paragraphs aligned otherwise than their style says; None follows it."""
        start, end = self.edit.selection
        text = edit_text.set_alignment(self.edit.text, start[0], end[0], alignment)
        self.edit.keep("alignment", text)

    def tabs(self) -> tuple[TabStop, ...]:
        """The tab stops of the caret's paragraph, its own or its style's."""
        paragraph = self.edit.text[self.edit.caret[0]]
        style = computed_style(self.edit.session.publication.paragraph_styles, paragraph.style)
        return style.tabs if paragraph.tabs is None else paragraph.tabs

    def set_starts(self, starts: Starts | None) -> None:
        """Where the caret's paragraph starts; None: where its style says."""
        text = edit_text.set_starts(self.edit.text, self.edit.caret[0], starts)
        self.edit.keep("where it starts", text)

    def break_here(self, starts: Starts) -> None:
        """What follows the caret begins a paragraph that starts somewhere else."""
        if self.edit.caret[1] or self.edit.caret != self.edit.anchor:
            self.edit.insert("\n", merge="")
        self.set_starts(starts)

    def counts(self) -> bool:
        """Whether the caret's paragraph has a number."""
        styles, paragraph = self.edit.session.publication.paragraph_styles, self._paragraph()
        number = computed_style(styles, paragraph.style).number
        return number is not None and "{" in number.form

    def count_from(self) -> int | None:
        """The number that the caret's paragraph counts from; None if it goes on."""
        return self._paragraph().count_from

    def _paragraph(self) -> Paragraph:
        return self.edit.text[self.edit.caret[0]]

    def set_count_from(self, number: int | None) -> None:
        """The caret's paragraph counts from a number, or goes on from the one before."""
        text = edit_text.set_count_from(self.edit.text, self.edit.caret[0], number)
        self.edit.keep("what it counts from", text)

    def set_short(self, short: str) -> None:
        """What running heads show of the caret's paragraph where all of it has no room."""
        text = edit_text.set_short(self.edit.text, self.edit.caret[0], short[:200])
        self.edit.keep("short title", text)

    def in_heads(self) -> bool:
        """Whether running heads show paragraphs of the style of the caret's one."""
        publication, style = self.edit.session.publication, self.paragraph_style()
        return any(style in set(head_styles_in(text)) for _, text in texts_of(publication))

    def set_tabs(self, tabs: tuple[TabStop, ...]) -> None:
        """The selected paragraphs with tab stops of their own."""
        start, end = self.edit.selection
        self.edit.keep("tab stops", edit_text.set_tabs(self.edit.text, start[0], end[0], tabs))

    def departures(self) -> tuple[str, ...]:
        """What is selected, or the caret's paragraph, says besides its styles."""
        return departures(self.edit.text, *self.edit.selection) if self.edit.text else ()

    def clear_departures(self) -> None:
        """The selected paragraphs as their styles say."""
        start, end = self.edit.selection
        self.edit.keep("as the styles say", as_styled(self.edit.text, start[0], end[0]))

    def make_style(self) -> None:
        """A new style that says what the caret's paragraph does, which is set in it."""
        publication, style_id, text = style_of(
            self.edit.session.history.now, self.edit.text, self.edit.selection[0][0]
        )
        style = paragraph_style(publication, style_id)
        self.edit.keep("new style", text, lambda p: put_paragraph_style(p, style))
        self.edit.session.noticed.emit(
            f"Made the style “{style.name}” from this paragraph; rename it with Ctrl+T."
        )

    def toggle(self, name: str) -> None:
        """Bold or italic put on the selection, or taken off it."""
        self.set_look(**{name: not self.now()[name]})

    def split_ends(self) -> None:
        """A line with two ends: what follows the caret goes to the right edge."""
        text, place = self.edit.without_selection()
        text, place = edit_text.split_ends(text, place)
        self.edit.change("tab to the right edge", text, place)
        self.edit.session.seal()

    def now(self) -> dict[str, Any]:
        """How the text at the caret looks: its own look over its styles."""
        text, publication = self.edit.text, self.edit.session.publication
        paragraph = text[self.edit.caret[0]]
        style = computed_style(publication.paragraph_styles, paragraph.style)
        start, _ = self.edit.selection
        at = (start[0], start[1] + 1) if self.edit.anchor != self.edit.caret else self.edit.caret
        at = at if at[1] <= steps.length(text[at[0]]) else self.edit.caret
        named, own = edit_text.dress_at(text, at)
        character = computed_characters(publication.character_styles).get(named or "")
        found: dict[str, Any] = {"style": paragraph.style, "character": named}
        found["alignment"] = paragraph.alignment or style.alignment
        for name in CHARACTER_PROPERTIES:
            if name == "language":
                continue
            values = (getattr(own, name), getattr(character, name, None), getattr(style, name))
            found[name] = next((v for v in values if v is not None), None)
        found["language"] = own.language
        return found

    def set_character_style(self, style: str | None) -> None:
        start, end = self.edit.selection
        text = edit_text.set_character_style(self.edit.text, start, end, style)
        self.edit.keep("character style", text)

    def paragraph_style(self) -> str | None:
        """The style of the caret's paragraph."""
        text = self.edit.text
        return text[self.edit.caret[0]].style if text else None
