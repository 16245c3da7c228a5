"""A publication made and changed by a script, in the words of the trade.

>>> import hidden_frame as hf
>>> book = hf.Document.new("Field notes", trim="A5", pages=16)
>>> text = book.add_master("Text", margins="ninths")
>>> _ = text.add_text_frame(x="20mm", y="190mm", width="100mm", height="6mm",
...                         text=hf.marker.folio, align="outside")
>>> book.apply(text, "3-16")
>>> book.page(5).masters
('Text',)
"""

from hidden_frame.model.errors import Refusal
from hidden_frame.script import marker
from hidden_frame.script.document import Document, Overridden, Problem
from hidden_frame.script.holders import ItemOn, MasterPage, PageOf
from hidden_frame.script.section import Section
from hidden_frame.script.stories import StoryOf
from hidden_frame.script.values import paragraph, run

__all__ = [
    "Document",
    "ItemOn",
    "MasterPage",
    "Overridden",
    "PageOf",
    "Problem",
    "Refusal",
    "Section",
    "StoryOf",
    "marker",
    "paragraph",
    "run",
]
