"""What examples in docstrings may use without more ado.

`book` is a document of 16 A5 pages, whose front matter (pages i and ii) goes before the body;
`publication`, `composition` and `blobs` are its; `page` is the id of the body's first page, with
a text frame `frame` of its own, and `master` that of its master, with a text frame `item`.
`folder` is an empty folder, and the current one.
"""

from __future__ import annotations

import pytest

import hidden_frame as hf


@pytest.fixture(autouse=True)
def examples(request, doctest_namespace, tmp_path, monkeypatch):
    """All of it anew for each example."""
    if type(request.node).__name__ != "DoctestItem":
        return
    from msgspec.structs import replace

    from hidden_frame.compose.composer import Composer

    monkeypatch.chdir(tmp_path)
    book = hf.Document.new("Field notes", trim="A5", pages=16)
    book.section_at(1, "Front matter", "lower roman", start=1)
    book.section_at(3, "Body", start=1)
    head = book.master("Base").add_text_frame(20, 20, 200, 14, ["Field notes ", hf.marker.folio])
    note = book.page(3).add_text_frame(60, 60, 200, 40, "After rain, by the stream.")
    doctest_namespace.update(
        hf=hf, book=book, publication=book.publication, blobs=book.blobs, replace=replace,
        composition=Composer().compose(book.publication), page=book.page(3).id,
        master=book.master("Base").id, item=head.id, frame=note.id, folder=tmp_path,
    )  # fmt: skip
