"""Pages and masters of a document, and what a script puts on them."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Any

from hidden_frame.edit.items.draw import add_item, change_items, remove_items
from hidden_frame.edit.looks.styles import put_picture
from hidden_frame.edit.masters.overrides import follow, hide_here, override
from hidden_frame.model.items import TEXT_COLOURS, Item, Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import find_master, holder, masters_by_id, stack_of
from hidden_frame.model.paint import Fill, Stroke
from hidden_frame.model.publication import Master, Page, Publication
from hidden_frame.model.text import Alignment
from hidden_frame.script.values import Length, Words, length
from hidden_frame.storage.pictures import read_picture

if TYPE_CHECKING:
    from hidden_frame.script.base import Base

_LENGTHS = ("x", "y", "width", "height", "radius", "gutter", "text_size")


class ItemOn:
    """An item that stands on a page or master of a document; `holder_id` is the id of that."""

    def __init__(self, document: Base, holder_id: str, item_id: str) -> None:
        self._document = document
        self.holder_id = holder_id
        self.id = item_id

    @property
    def item(self) -> Item:
        """The item as it is now.

        >>> book.page(3).items[0].item.width
        200.0
        """
        owner = holder(self._document.publication, self.holder_id)
        return next(item for item in owner.items if item.id == self.id)

    def change(self, **properties: Any) -> ItemOn:
        """Changes properties by the model's names; lengths in points or with units.

        >>> frame = book.page(3).add_text_frame(20, 20, "50mm", 30, text="Notes")
        >>> frame.change(x="40mm", name="Side note").item.name
        'Side note'
        """
        changes = self._document.properties(properties)
        self._document.edit(
            f"change {self.item.name}",
            lambda p: change_items(p, self.holder_id, {self.id: changes}),
        )
        return self

    def remove(self) -> None:
        """Takes the item away; overrides of it go along.

        >>> book.page(3).items[0].remove()
        >>> book.page(3).items
        []
        """
        self._document.edit("remove", lambda p: remove_items(p, self.holder_id, [self.id]))


class _Holder:
    """What pages and masters have in common.  Places are those of a right-hand page."""

    def __init__(self, document: Base, holder_id: str) -> None:
        self._document = document
        self.id = holder_id

    @property
    def items(self) -> list[ItemOn]:
        """The items that stand here themselves, from the bottom up.

        >>> len(book.page(3).items)
        1
        """
        owner = holder(self._document.publication, self.id)
        return [ItemOn(self._document, self.id, item.id) for item in owner.items]

    def _add(self, item: Item) -> ItemOn:
        made: list[str] = []

        def change(publication: Publication) -> Publication:
            publication, item_id = add_item(publication, self.id, item)
            made.append(item_id)
            return publication

        self._document.edit(f"add {type(item).__name__}", change)
        return ItemOn(self._document, self.id, made[-1])

    def add_text_frame(
        self, x: Length, y: Length, width: Length, height: Length, text: Words = "",
        *, style: str = "Body", align: Alignment | None = None, **properties: Any,
    ) -> ItemOn:  # fmt: skip
        """A frame of text in a paragraph style, by its name; `align` differs from the style.

        `properties` are the model's: columns, gutter, inset, vertical, grows, fill, stroke…

        >>> frame = book.page(3).add_text_frame(20, 40, "80mm", 60, text="One\\nTwo", columns=2)
        >>> [p.content[0].text for p in frame.item.text]
        ['One', 'Two']
        """
        place = self._document.properties(
            {"x": x, "y": y, "width": width, "height": height, **properties}
        )
        said = self._document.text(text, style, align)
        return self._add(TextFrame(id="", text=said, **place))

    def add_picture(
        self, x: Length, y: Length, width: Length, height: Length, path: str | Path | None = None,
        **properties: Any,
    ) -> ItemOn:  # fmt: skip
        """A frame with a picture from a file, or with none yet; `fit` as in the model.

        Raises `Refusal` for a file that is no picture.

        >>> book.page(4).add_picture(0, 0, "40mm", "30mm").item.picture is None
        True
        """
        document = self._document
        if path is not None:
            picture, data = read_picture(Path(path))
            document.blobs[picture.hash] = data
            document.edit("place a picture", lambda p: put_picture(p, picture))
            properties["picture"] = picture.hash
        place = document.properties(
            {"x": x, "y": y, "width": width, "height": height, **properties}
        )
        return self._add(PictureFrame(id="", **place))

    def add_shape(
        self, x: Length, y: Length, width: Length, height: Length, form: str = "rectangle",
        **properties: Any,
    ) -> ItemOn:  # fmt: skip
        """A rectangle, an ellipse, or a rectangle that is rounded.

        >>> book.page(3).add_shape(0, 0, "20mm", "20mm", "ellipse", fill="Ochre").item.fill.colour
        'ochre'
        """
        place = self._document.properties(
            {"x": x, "y": y, "width": width, "height": height, "form": form, **properties}
        )
        return self._add(Shape(id="", **place))

    def add_line(
        self, x: Length, y: Length, width: Length, stroke: Any = ("Ink", 1.0), **properties: Any
    ) -> ItemOn:
        """A line from left to right; `rotation` turns it about its middle (degrees).

        >>> book.page(4).add_line("20mm", "30mm", "60mm", stroke=("Ochre", 0.5)).item.stroke.width
        0.5
        """
        place = self._document.properties(
            {"x": x, "y": y, "width": width, "stroke": stroke, **properties}
        )
        return self._add(Line(id="", height=0.0, **place))


class MasterPage(_Holder):
    """A master of a document."""

    @property
    def master(self) -> Master:
        """The master as it is now.

        >>> book.master("Base").master.items[0].width
        200.0
        """
        return find_master(self._document.publication, self.id)

    @property
    def name(self) -> str:
        """What it is called.

        >>> book.master("base").name
        'Base'
        """
        return self.master.name


class PageOf(_Holder):
    """A page of a document."""

    @property
    def page(self) -> Page:
        """The page as it is now.

        >>> book.page(3).page.blind
        False
        """
        owner = holder(self._document.publication, self.id)
        assert isinstance(owner, Page)
        return owner

    @property
    def folio(self) -> str:
        """What its folio prints, without being blind; "" where its section has none.

        >>> book.page(1).folio, book.page(3).folio
        ('i', '1')
        """
        return self._document.facts[self.id].folio

    @property
    def position(self) -> int:
        """Counted from 1.

        >>> book.page("ii").position
        2
        """
        return self._document.facts[self.id].position

    @property
    def masters(self) -> tuple[str, ...]:
        """The names of the masters that it follows, bottom to top.

        >>> book.page(3).masters
        ('Base',)
        """
        publication = self._document.publication
        known = masters_by_id(publication)
        return tuple(known[m].name for m in stack_of(publication, self.page))

    def override(self, item: ItemOn, **properties: Any) -> None:
        """Changes single properties of a master's item on this page alone.

        >>> head = book.master("Base").add_text_frame(20, 20, 200, 14, text="Field notes")
        >>> book.page(4).override(head, visible=False)
        >>> len(book.page(4).page.overrides)
        1
        """
        changes = self._document.properties(properties)
        if changes == {"visible": False}:
            self._document.edit("hide here", lambda p: hide_here(p, self.id, item.id))
        else:
            self._document.edit("override", lambda p: override(p, self.id, item.id, **changes))

    def follow(self, item: ItemOn) -> None:
        """Lets a master's item be here as on its master again.

        >>> head = book.master("Base").items[0]
        >>> book.page(4).override(head, x=30)
        >>> book.page(4).follow(head)
        >>> book.page(4).page.overrides
        ()
        """
        self._document.edit("follow", lambda p: follow(p, self.id, item.id))


def property_of(name: str, value: Any, colour_id: Any) -> Any:
    """A property as the model has it: lengths in points, colours by name.

    A fill is a colour, or (colour, tint); a stroke (colour, width in points).
    """
    if value is None:
        return None
    if name in _LENGTHS or (name == "inset" and isinstance(value, int | float | str)):
        return length(value)
    if name in TEXT_COLOURS:
        return colour_id(value)
    if name == "fill" and not isinstance(value, Fill):
        colour, tint = value if isinstance(value, tuple) else (value, 1.0)
        return Fill(colour_id(colour), tint)
    if name == "stroke" and not isinstance(value, Stroke):
        colour, width = value if isinstance(value, tuple) else (value, 1.0)
        return Stroke(colour=colour_id(colour), width=length(width))
    return value
