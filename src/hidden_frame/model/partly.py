"""Values that say some properties of another kind and leave others open: what a style says itself,
what an override changes.  They are derived, so that a property is declared once."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any, get_type_hints

from msgspec import UNSET, Struct, UnsetType, defstruct


def open_fields(kinds: Iterable[type[Struct]], names: Iterable[str]) -> list[tuple[str, Any, Any]]:
    """Fields of these names, as the first of the kinds that has one declares it, which may be left
    unset.  Raises KeyError for a name that none has.

    >>> from hidden_frame.model.items import Shape
    >>> open_fields([Shape], ["x"])
    [('x', float | msgspec.UnsetType, UNSET)]
    """
    declared: dict[str, Any] = {}
    for kind in kinds:
        declared = {**get_type_hints(kind, include_extras=True), **declared}
    return [(name, declared[name] | UnsetType, UNSET) for name in names]


def partly(
    name: str, module: str, doc: str, own: Iterable[tuple[Any, ...]],
    open_: Iterable[tuple[str, Any, Any]],
) -> Any:  # fmt: skip
    """A frozen struct with fields of its `own`, and open ones."""
    namespace: Mapping[str, Any] = {"__doc__": doc}
    return defstruct(
        name, [*own, *open_], module=module, namespace=dict(namespace),
        frozen=True, kw_only=True, omit_defaults=True, forbid_unknown_fields=True,
    )  # fmt: skip
