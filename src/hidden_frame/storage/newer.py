"""What can be seen of a publication that says more than this version knows.

>>> from hidden_frame.model.publication import About
>>> known({"author": "M. Tern", "smell": "of rain"}, About)
KnownPart(tree={'author': 'M. Tern'}, unknown=['smell'])
"""

from __future__ import annotations

from functools import cache
from types import UnionType
from typing import Annotated, Any, NamedTuple, Union, get_args, get_origin, get_type_hints

import msgspec

from hidden_frame.storage.door import short

_MOST_NAMED = 3  # unknown names that are told; the rest is counted


class KnownPart(NamedTuple):
    """A tree (JSON, decoded) with nothing but what is known, and the names of what was not, each
    once, in the order of the tree."""

    tree: Any
    unknown: list[str]


class _Lost(Exception):
    """A value that this version can't read: its part goes without it."""


def known(tree: Any, kind: Any) -> KnownPart:
    """What of a tree can be read as `kind`, a type of the model.

    A field that is not known is left out; a value that is not known takes the nearest part with
    it that may be missing: its field, if that has a default, else its whole, from a list.  Raises
    `msgspec.ValidationError` where nothing is left.
    """
    unknown: dict[str, None] = {}
    try:
        return KnownPart(_seen(tree, kind, unknown, ""), list(unknown))
    except _Lost as error:
        raise msgspec.ValidationError(str(error)) from error


def in_words(unknown: list[str]) -> str:
    """“smell”, “sound” and 4 more."""
    named = [f"“{short(name, 40)}”" for name in unknown[:_MOST_NAMED]]
    more = len(unknown) - len(named)
    return ", ".join(named) + (f" and {more} more" if more else "")


def _seen(value: Any, kind: Any, unknown: dict[str, None], name: str) -> Any:
    origin, inner = get_origin(kind), get_args(kind)
    if origin is Annotated and get_origin(inner[0]) is None and not _is_struct(inner[0]):
        return _leaf(value, kind, unknown, name)
    if origin is Annotated:
        return _seen(value, inner[0], unknown, name)
    if origin is tuple and isinstance(value, list):
        return _listed(value, inner, unknown, name)
    if origin in (Union, UnionType):
        return _chosen(value, inner, unknown, name)
    if _is_struct(kind):
        return _struct(value, kind, unknown, name)
    return _leaf(value, kind, unknown, name)


def _leaf(value: Any, kind: Any, unknown: dict[str, None], name: str) -> Any:
    try:
        msgspec.convert(value, kind)
    except msgspec.ValidationError as error:
        unknown[value if isinstance(value, str) and value else name] = None
        raise _Lost(str(error)) from error
    return value


def _listed(value: list[Any], inner: tuple[Any, ...], unknown: dict[str, None], name: str) -> Any:
    if len(inner) != 2 or inner[1] is not Ellipsis:
        if len(value) != len(inner):
            unknown[name] = None
            raise _Lost(f"“{name}” has {len(value)} parts")
        return [_seen(part, kind, unknown, name) for part, kind in zip(value, inner, strict=True)]
    kept = []
    for part in value:
        try:
            kept.append(_seen(part, inner[0], unknown, name))
        except _Lost:
            continue
    return kept


def _chosen(value: Any, kinds: tuple[Any, ...], unknown: dict[str, None], name: str) -> Any:
    tagged = [kind for kind in kinds if _is_struct(kind) and _tag(kind) is not None]
    if isinstance(value, dict) and tagged:
        field = _tag(tagged[0])[0]
        of_kind = next((kind for kind in tagged if value.get(field) == _tag(kind)[1]), None)
        if of_kind is None:
            unknown[str(value.get(field, name))] = None
            raise _Lost(f"“{value.get(field)}” is not known")
        return _struct(value, of_kind, unknown, name)
    for kind in kinds:
        if kind is not msgspec.UnsetType and (isinstance(value, dict) or not _is_struct(kind)):
            within: dict[str, None] = {}
            try:
                found = _seen(value, kind, within, name)
            except _Lost:
                continue
            unknown.update(within)
            return found
    unknown[name] = None
    raise _Lost(f"“{name}” is not known")


def _struct(value: Any, kind: Any, unknown: dict[str, None], name: str) -> dict[str, Any]:
    if not isinstance(value, dict):
        unknown[name] = None
        raise _Lost(f"“{name}” is no part")
    fields, tag, kept = _fields(kind), _tag(kind), {}
    for key, part in value.items():
        if tag is not None and key == tag[0]:
            kept[key] = part
        elif key not in fields:
            unknown[key] = None
        else:
            hint, required = fields[key]
            try:
                kept[key] = _seen(part, hint, unknown, key)
            except _Lost:
                if required:
                    raise
    return kept


def _is_struct(kind: Any) -> bool:
    return isinstance(kind, type) and issubclass(kind, msgspec.Struct)


@cache
def _tag(kind: type[msgspec.Struct]) -> Any:
    """The field that tells which kind a part is, and what it says of this one; None for none."""
    config = kind.__struct_config__
    return (config.tag_field, config.tag) if config.tag_field is not None else None


@cache
def _fields(kind: type[msgspec.Struct]) -> dict[str, tuple[Any, bool]]:
    """The type of each field by its name in the file, and whether it has to be there."""
    hints = get_type_hints(kind, include_extras=True)
    return {
        field.encode_name: (hints[field.name], field.required)
        for field in msgspec.structs.fields(kind)
    }
