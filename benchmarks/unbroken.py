"""400,000 characters without a space, put into a frame and composed."""

from __future__ import annotations

import random
from collections.abc import Iterator

from benchmarks.measures import Row, _forget, _timed
from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.text.write import insert
from hidden_frame.model.geometry import Size
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.publication import Setup
from hidden_frame.model.text import Paragraph

COUNT = 400_000
_LETTERS = "abcdefghijklmnopqrstuvwxyz"
_SIGNS = "".join(map(chr, range(0x4E00, 0x5200)))  # the first thousand ideographs of Unicode


def unbroken() -> Iterator[Row]:
    """Letters and ideographs, as they are pasted by mistake and on purpose."""
    draw = random.Random(7)
    for name, among in (("letters", _LETTERS), ("Chinese signs", _SIGNS)):
        pasted = "".join(draw.choices(among, k=COUNT))
        _forget()
        seconds = _timed(lambda pasted=pasted: _paste(pasted))  # type: ignore[misc]
        yield Row(f"{COUNT:,} {name} without a space", seconds, "s", 2)


def _paste(string: str) -> None:
    publication = new_publication("Pasted", Setup(trim=Size(400, 600)))
    text, _ = insert((Paragraph(publication.paragraph_styles[0].id),), (0, 0), string)
    page = all_pages(publication)[0].id
    frame = TextFrame(id="", x=40, y=40, width=300, height=500, text=text)
    publication, _ = add_item(publication, page, frame)
    Composer().compose(publication).scene(page)
