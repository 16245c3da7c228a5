"""What a script does with a document's looks: styles, colours, layers."""

from __future__ import annotations

import re
from collections.abc import Mapping
from typing import Any

from msgspec.structs import replace

from hidden_frame.edit.looks.colours import add_colour
from hidden_frame.edit.looks.layers import add_layer, change_layer, delete_layer, move_layer
from hidden_frame.edit.looks.styles import (
    new_character_style,
    new_paragraph_style,
    put_character_style,
    put_paragraph_style,
)
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import character_style, paragraph_style
from hidden_frame.model.publication import Publication
from hidden_frame.script.base import Base
from hidden_frame.script.values import length

_WEB = re.compile(r"^#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})$", re.IGNORECASE)


class Looks(Base):
    """Part of `Document`."""

    # -- styles ------------------------------------------------------------------------

    def style(self, name: str, *, based_on: str | None = None, **properties: Any) -> None:
        """Changes a paragraph style, or makes one that is based on another.

        >>> book.style("Small print", based_on="Body", size=7.5, leading=10)
        >>> book.publication.paragraph_styles[-1].size
        7.5
        """
        known = {s.name: s.id for s in self.publication.paragraph_styles}
        changes = self._style_changes(properties)

        def change(publication: Publication) -> Publication:
            style_id = known.get(name, "")
            if not style_id:
                like = self.paragraph_style(based_on or "Body")
                publication, style_id = new_paragraph_style(publication, like, based=True)
            style = replace(paragraph_style(publication, style_id), name=name, **changes)
            return put_paragraph_style(publication, style)

        self.edit(f"style {name}", change)

    def character_style(self, name: str, *, based_on: str | None = None, **properties: Any) -> None:
        """Changes a character style, or makes one: what it says of family, bold, italic, size,
        tracking, colour, tint, language, case, figures, raised, underline, strike.

        >>> book.character_style("Ship", italic=True)
        >>> frame = book.page(3).add_text_frame(20, 20, 90, 20, text=hf.run("Vega", style="Ship"))
        >>> frame.item.text[0].content[0].style == book.publication.character_styles[-1].id
        True
        """
        known = {s.name: s.id for s in self.publication.character_styles}
        changes = self._style_changes(properties)

        def change(publication: Publication) -> Publication:
            style_id = known.get(name, "")
            if not style_id:
                like = self.character_style_id(based_on) if based_on else None
                publication, style_id = new_character_style(publication, like, based=True)
            style = replace(character_style(publication, style_id), name=name, **changes)
            return put_character_style(publication, style)

        self.edit(f"style {name}", change)

    def _style_changes(self, properties: Mapping[str, Any]) -> dict[str, Any]:
        changes = dict(properties)
        for name in ("colour", "on_dark"):
            if changes.get(name) is not None:
                changes[name] = self.colour(changes[name])
        for name in ("size", "leading", "space_before", "space_after", "indent_left",
                     "indent_right", "indent_first"):  # fmt: skip
            if name in changes:
                changes[name] = length(changes[name])
        return changes

    # -- colours -----------------------------------------------------------------------

    def add_colour(
        self, name: str, *, rgb: tuple[float, float, float] | None = None,
        cmyk: tuple[float, float, float, float] | None = None, spot: bool = False,
    ) -> str:  # fmt: skip
        """A colour by name, of shares from 0 to 1; its id.

        `rgb` for screens, `cmyk` for process printing; with `spot` it is an ink of its own that
        `cmyk` imitates.  Raises `Refusal` for a name that is taken, or shares out of range.

        >>> _ = book.add_colour("Moss", cmyk=(0.6, 0.2, 0.9, 0.1), spot=True)
        >>> book.publication.colours[-1].space
        'spot'
        """
        values = rgb if cmyk is None else cmyk
        if (rgb is None) == (cmyk is None) or values is None:
            raise Refusal(f"“{name}” needs either RGB or CMYK shares; give one.", field="values")
        space = "spot" if spot else ("rgb" if cmyk is None else "cmyk")
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, colour_id = add_colour(publication, name, space, values)  # type: ignore[arg-type]
            made.append(colour_id)
            return publication

        self.edit("new colour", change)
        return made[-1]

    def colour(self, name: str) -> str:
        """A colour's id by its name; one written as "#1f6f5c" is added if it is new.

        >>> book.colour("Ochre"), book.colour("#1f6f5c") == book.publication.colours[-1].id
        ('ochre', True)
        """
        try:
            return super().colour(name)
        except Refusal:
            web = _WEB.match(name)
            if web is None:
                raise
        red, green, blue = (int(part, 16) / 255 for part in web.groups())
        return self.add_colour(name.lower(), rgb=(red, green, blue))

    # -- layers ------------------------------------------------------------------------

    @property
    def layers(self) -> list[str]:
        """The names of all layers, from the bottom up.

        >>> book.layers
        ['Ground', 'Content', 'Above']
        """
        return [layer.name for layer in self.publication.layers]

    def add_layer(self, name: str, above: str = "") -> None:
        """A layer above another one, by its name, or above all.

        >>> book.add_layer("Proofs", above="Content")
        >>> book.layers
        ['Ground', 'Content', 'Proofs', 'Above']
        """
        below = self.layer(above) if above else None
        self.edit("new layer", lambda p: add_layer(p, name, below)[0])

    def change_layer(self, name: str, **changes: Any) -> None:
        """Changes what a layer says: `name`, `visible`, `locked`, `printing`.

        >>> book.change_layer("Above", printing=False)
        """
        layer_id = self.layer(name)
        self.edit(f"layer {name}", lambda p: change_layer(p, layer_id, **changes))

    def move_layer(self, name: str, to: int) -> None:
        """Puts a layer at another place, counted from 0 at the bottom.

        >>> book.move_layer("Above", 0)
        >>> book.layers
        ['Above', 'Ground', 'Content']
        """
        layer_id = self.layer(name)
        self.edit("move layer", lambda p: move_layer(p, layer_id, to))

    def delete_layer(self, name: str) -> None:
        """Deletes a layer; what is on it goes to the next one.

        >>> book.delete_layer("Above")
        >>> book.layers
        ['Ground', 'Content']
        """
        layer_id = self.layer(name)
        self.edit("delete layer", lambda p: delete_layer(p, layer_id))
