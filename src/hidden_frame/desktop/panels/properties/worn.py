"""Rows of what a frame's words wear here: colour, style, size, and the colour for dark ground; the
words themselves go on following the master."""

from __future__ import annotations

from hidden_frame.compose.palette import palette
from hidden_frame.compose.worn import one_colour
from hidden_frame.desktop.dialogs.colour_choice import NO_DARK, ON_DARK_HINT, ColourChoice
from hidden_frame.desktop.fields.fields import Choice, LengthField
from hidden_frame.desktop.fields.item_rows import ItemRows
from hidden_frame.edit.looks.colours import check_dark
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import Item, TextFrame

AS_THEY_SAY = "as in their styles"
WORN = ("text_colour", "text_style", "text_size", "on_dark")
"""What may be changed on a page at once, without asking for an override first."""


class _SizeHere(LengthField):
    """A size of type, or nothing: as the words say themselves."""

    def parse(self, text: str) -> float | None:  # type: ignore[override]
        return super().parse(text) if text.strip() else None


def add_worn(form: ItemRows) -> None:
    """The rows, under a heading of their own."""
    form.heading("ALL OF ITS WORDS")
    colour = ColourChoice("Colour of all words", form.session)
    colour.committed.connect(lambda v: _commit(form, "text_colour", colour, v))
    form.add("Colour", "text_colour", colour, lambda i: _show(colour, i, "text_colour"))
    dark = ColourChoice("On dark ground", form.session)
    dark.setToolTip(ON_DARK_HINT)
    dark.committed.connect(lambda v: _commit(form, "on_dark", dark, v))
    form.add("On dark ground", "on_dark", dark, lambda i: _show(dark, i, "on_dark", NO_DARK))
    style = Choice("Style of all words")
    style.committed.connect(lambda v: form.change("style of all words", text_style=v))

    def show_style(item: Item) -> None:
        styles: list[tuple[str, object]] = [(AS_THEY_SAY, None)]
        styles += [(s.name, s.id) for s in form.session.publication.paragraph_styles]
        style.show_choice(styles, getattr(item, "text_style", None))

    form.add("Style", "text_style", style, show_style)
    size = _SizeHere("Size of all words", "pt", 0.5, 2000.0)
    size.setPlaceholderText(AS_THEY_SAY)
    size.committed.connect(lambda v: form.change("size of all words", text_size=v))

    def show_size(item: Item) -> None:
        value = getattr(item, "text_size", None)
        if value is None:
            size.show_text("")
        else:
            size.show_value(value)

    form.add("Size", "text_size", size, show_size)


def _show(field: ColourChoice, item: Item, name: str, none: str = AS_THEY_SAY) -> None:
    field.show_colours(getattr(item, name, None), none)


def _commit(form: ItemRows, name: str, field: ColourChoice, value: object) -> None:
    """A colour that is chosen; one for dark ground that they have anyway is refused."""
    item = form.item_now()
    if not isinstance(item, TextFrame):
        return
    if name == "on_dark" and value is not None:
        publication = form.session.publication
        try:
            check_dark(publication, one_colour(item, palette(publication)), str(value))
        except Refusal as refusal:
            form.say(str(refusal), field)
            _show(field, item, name, NO_DARK)
            return
    form.say("")
    label = "colour of all words" if name == "text_colour" else "colour on dark ground"
    form.change(label, **{name: value})
