"""Writes the reference of what scripts use into docs/, from signatures and docstrings."""

from __future__ import annotations

import inspect
import re
import textwrap
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from hidden_frame import script
from hidden_frame.script import marker

TARGET = Path(__file__).parent.parent / "docs" / "scripting-reference.md"
HEAD = """# Reference for scripts

Written by `scripts/make_reference.py` from the code; [scripts](scripting.md) says how to begin.
Every example runs as a test. Lengths are points, or strings with a unit or a sum
(`"12mm + 3pt"`); what can’t be done raises `Refusal` with one sentence, and changes nothing.
"""
_FIRST = ("Document", "PageOf", "MasterPage", "ItemOn", "Section", "StoryOf")


def reference() -> str:
    """The whole page."""
    parts = [HEAD, *_functions(), *_markers()]
    others = set(script.__all__) - {*_FIRST, "marker", "paragraph", "run"}
    names = [*_FIRST, *sorted(others)]
    for name in names:
        parts += _class(name, getattr(script, name))
    return "\n".join(parts).rstrip() + "\n"


def _functions() -> Iterator[str]:
    yield "\n## Words\n"
    for name in ("paragraph", "run"):
        yield from _entry(f"hf.{name}", getattr(script, name))


def _markers() -> Iterator[str]:
    yield "\n### `hf.marker`\n"
    yield _said(marker) + "\n"
    names = [n for n in vars(marker) if not n.startswith("_") and n.islower()]
    known = [n for n in names if type(getattr(marker, n)).__name__ in ("Marker", "function")]
    yield ", ".join(f"`{n}`" for n in known if getattr(marker, n) is not None) + "\n"


def _class(name: str, kind: type) -> Iterator[str]:
    yield f"\n## {name}\n"
    yield _said(kind) + "\n"
    for member, value in _members(kind):
        yield from _entry(member, value)


def _members(kind: type) -> Iterator[tuple[str, Any]]:
    """What a class and those it is made of offer, in the order of the source."""
    seen: set[str] = set()
    for owner in kind.__mro__:
        if not owner.__module__.startswith("hidden_frame.script"):
            continue
        for name, value in vars(owner).items():
            plain = value.__func__ if isinstance(value, staticmethod) else value
            known = isinstance(plain, property) or inspect.isfunction(plain)
            if name.startswith("_") or name in seen or not known:
                continue
            seen.add(name)
            yield name, plain


def _entry(name: str, value: Any) -> Iterator[str]:
    """A heading with the signature, then what the docstring says."""
    if isinstance(value, property):
        told = inspect.signature(value.fget).return_annotation if value.fget else ""
        yield f"### `{name}` → `{told}`\n"
    else:
        yield f"### `{name}{_signature(value)}`\n"
    yield _said(value) + "\n"


class _Annotation(str):
    """An annotation as it is written."""

    def __repr__(self) -> str:
        return str(self)


def _signature(function: Any) -> str:
    found = inspect.signature(function)
    kept = [p.replace(annotation=_Annotation(p.annotation))
            for p in found.parameters.values() if p.name != "self"]  # fmt: skip
    told = _Annotation(found.return_annotation)
    return str(found.replace(parameters=kept, return_annotation=told))


def _said(thing: Any) -> str:
    """A docstring as Markdown: examples are code."""
    lines = (inspect.getdoc(thing) or "").splitlines()
    at = next((n for n, line in enumerate(lines) if line.startswith(">>>")), len(lines))
    words, example = "\n".join(lines[:at]).strip(), "\n".join(lines[at:]).rstrip()
    words = re.sub(r"  +", " ", words)
    return words + (f"\n\n{textwrap.indent(example, '    ')}" if example else "")


if __name__ == "__main__":
    TARGET.write_text(reference(), "utf-8")
    print(f"wrote {TARGET.name}")
