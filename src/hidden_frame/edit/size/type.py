"""Letters, and what travels with a text, by a factor."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

from msgspec import UNSET, Struct
from msgspec.structs import replace

from hidden_frame.edit.change import change_texts
from hidden_frame.edit.size.scale import crop_scaled
from hidden_frame.model.publication import Publication
from hidden_frame.model.styles import CharacterStyle, ParagraphStyle, Rule, own
from hidden_frame.model.text import Anchor, Look, Piece, Run, TabStop, Text

# The limits of the model's types.
_SIZE, _SHIFT, _WEIGHT, _OFFSET = 2000.0, 500.0, 100.0, 200.0
_ANCHOR, _DISTANCE = (1.0, 5000.0), 1000.0


def type_scaled(publication: Publication, factor: float) -> Publication:
    """Every style and every departure from one, by a factor."""
    paragraphs = tuple(_style(s, factor) for s in publication.paragraph_styles)
    characters = tuple(_look(s, factor) for s in publication.character_styles)
    scaled = replace(publication, paragraph_styles=paragraphs, character_styles=characters)
    return change_texts(scaled, lambda text: _text(text, factor))


def anchors_scaled(publication: Publication, factor: float) -> Publication:
    """What travels with the text, by a factor."""

    def piece(old: Piece) -> Piece:
        return _anchor(old, factor) if isinstance(old, Anchor) else old

    return change_texts(publication, lambda text: _pieces(text, piece))


_LENGTHS = ("leading", "space_before", "space_after", "indent_left", "indent_right", "indent_first")


def _style(style: ParagraphStyle, factor: float) -> ParagraphStyle:
    if style.based_on is None:  # what it leaves unsaid is a length, too
        style = replace(style, **{n: own(style, n) for n in ("size", "leading")})
    changes: dict[str, Any] = {n: getattr(style, n) * factor for n in _LENGTHS if _is(style, n)}
    if _is(style, "tabs"):
        changes["tabs"] = tuple(_tab(t, factor) for t in style.tabs)
    for name in ("rule_above", "rule_below"):
        rule = getattr(style, name)
        if isinstance(rule, Rule):
            changes[name] = replace(
                rule,
                weight=min(rule.weight * factor, _WEIGHT),
                offset=_limited(rule.offset * factor, _OFFSET),
            )
    return _look(replace(style, **changes), factor)


def _is(struct: Struct, name: str) -> bool:
    return getattr(struct, name) not in (UNSET, None)


L = TypeVar("L", ParagraphStyle, CharacterStyle, Look)


def _look(look: L, factor: float) -> L:
    changes: dict[str, Any] = {}
    if _is(look, "size"):
        changes["size"] = min(look.size * factor, _SIZE)  # type: ignore[operator]
    if _is(look, "shift"):
        changes["shift"] = _limited(look.shift * factor, _SHIFT)  # type: ignore[operator]
    return replace(look, **changes) if changes else look


def _limited(value: float, most: float) -> float:
    return max(-most, min(value, most))


def _tab(stop: TabStop, factor: float) -> TabStop:
    return stop if stop.position is None else replace(stop, position=stop.position * factor)


def _anchor(anchor: Anchor, factor: float) -> Anchor:
    least, most = _ANCHOR
    crop = anchor.crop if anchor.crop is None else crop_scaled(anchor.crop, factor)
    return replace(
        anchor,
        width=max(least, min(anchor.width * factor, most)),
        height=max(least, min(anchor.height * factor, most)),
        distance=min(anchor.distance * factor, _DISTANCE),
        shift=_limited(anchor.shift * factor, _SHIFT),
        crop=crop,
    )


def _text(text: Text, factor: float) -> Text:
    def piece(old: Piece) -> Piece:
        if old.look is not None:
            old = replace(old, look=_look(old.look, factor))
        content = getattr(old, "content", None)
        if content is not None:
            runs = tuple(
                replace(r, look=_look(r.look, factor)) if isinstance(r, Run) and r.look else r
                for r in content
            )
            old = replace(old, content=runs)
        return old

    return tuple(
        p if p.tabs is None else replace(p, tabs=tuple(_tab(t, factor) for t in p.tabs))
        for p in _pieces(text, piece)
    )


def _pieces(text: Text, new: Callable[[Piece], Piece]) -> Text:
    made = []
    for paragraph in text:
        content = tuple(new(p) for p in paragraph.content)
        same = all(a is b for a, b in zip(content, paragraph.content, strict=True))
        made.append(paragraph if same else replace(paragraph, content=content))
    return tuple(made)
