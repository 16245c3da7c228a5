"""The objects that pages share, and the resources of each content stream.

A `Sheet` collects the operators of one page or form, and the names it uses; equal sets of
names become one dictionary in the file.
"""

from __future__ import annotations

import zlib
from collections.abc import Callable
from typing import Any

import pikepdf
from pikepdf import Array, Dictionary, Name

from hidden_frame.typeset.paragraph import SpotInk


class Store:
    """Names and objects of one file: fonts, forms and pictures, colours, graphics states."""

    def __init__(self, pdf: pikepdf.Pdf) -> None:
        self.pdf = pdf
        self._objects: dict[tuple[str, str], Any] = {}
        self._names: dict[tuple[str, object], str] = {}
        self._boxes: dict[tuple[float, ...], Any] = {}
        self._resources: dict[frozenset[tuple[str, str]], Any] = {}

    def name(self, kind: str, key: object, make: Callable[[], Any]) -> str:
        """The name of a shared object, made when it is first asked for."""
        found = self._names.get((kind, key))
        if found is None:
            found = f"{_LETTERS[kind]}{len(self._names) + 1}"
            self._names[kind, key] = found
            self._objects[kind, found] = self.pdf.make_indirect(make())
        return found

    def state(self, alpha: float, multiplied: bool) -> str:
        """A graphics state with an opacity, or with multiplied colours (ISO 32000-1, 8.4.5); the
        one says nothing of the other, so that what is multiplied may also be seen through."""

        def make() -> Any:
            state = Dictionary(Type=Name.ExtGState)
            if multiplied:
                state.BM = Name.Multiply
            if alpha < 1:
                state.ca = state.CA = alpha
            return state

        return self.name("ExtGState", (alpha, multiplied), make)

    def separation(self, ink: SpotInk) -> str:
        """The colour space of a spot ink (ISO 32000-1, 8.6.6.4)."""

        def make() -> Any:
            tint = Dictionary(
                FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=list(ink.cmyk), N=1
            )
            name = pdf_name(ink.name)
            return Array([Name.Separation, name, Name.DeviceCMYK, self.pdf.make_indirect(tint)])

        return self.name("ColorSpace", (ink.name, ink.cmyk), make)

    def box(self, *edges: float) -> Any:
        """A rectangle, which thousands of pages share."""
        found = self._boxes.get(edges)
        if found is None:
            found = self._boxes[edges] = self.pdf.make_indirect(Array(edges))
        return found

    def resources(self, used: frozenset[tuple[str, str]]) -> Any:
        """The dictionary of the names that a content stream uses."""
        found = self._resources.get(used)
        if found is None:
            kinds: dict[str, Any] = {}
            for kind, name in sorted(used):
                kinds.setdefault(f"/{kind}", {})[f"/{name}"] = self._objects[kind, name]
            made = Dictionary({kind: Dictionary(names) for kind, names in kinds.items()})
            found = self._resources[used] = self.pdf.make_indirect(made)
        return found

    def stream(self, code: bytes, **entries: Any) -> Any:
        """A compressed stream."""
        data = zlib.compress(code, 4)
        return pikepdf.Stream(self.pdf, data, Filter=Name.FlateDecode, **entries)

    def replace(self, kind: str, name: str, value: Any) -> None:
        """Sets what a name stands for, where that is known only at the end."""
        target = self._objects[kind, name]
        for key, entry in value.items():
            target[key] = entry


_LETTERS = {"Font": "F", "XObject": "X", "ExtGState": "G", "ColorSpace": "C"}


def pdf_name(text: str) -> Name:
    """Any text as a name object; qpdf writes what needs it as #xx (ISO 32000-1, 7.3.5)."""
    return Name("/" + text.replace("\0", ""))


class Sheet:
    """The operators of one content stream, and the names they use."""

    def __init__(self, store: Store) -> None:
        self.store = store
        self.code: list[str] = []
        self.used: set[tuple[str, str]] = set()

    def say(self, code: str) -> None:
        self.code.append(code)

    def use(self, kind: str, name: str) -> str:
        """The name, noted as used here."""
        self.used.add((kind, name))
        return name

    @property
    def content(self) -> bytes:
        return "\n".join(self.code).encode("ascii")

    @property
    def resources(self) -> Any:
        return self.store.resources(frozenset(self.used))
