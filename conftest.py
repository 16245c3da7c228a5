"""What examples in docstrings may use: `book`, a document of 16 A5 pages on two masters."""

from __future__ import annotations

import pytest

import hidden_frame as hf


@pytest.fixture(autouse=True)
def book(request, doctest_namespace):
    """A document of its own for each example."""
    if type(request.node).__name__ != "DoctestItem":
        return
    made = hf.Document.new("Field notes", trim="A5", pages=16)
    made.add_master("Chapter", base="Base")
    doctest_namespace.update(book=made, publication=made.publication, hf=hf)
