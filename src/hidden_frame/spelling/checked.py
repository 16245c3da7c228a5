"""Which words are looked up: those of styles that say so, or whose name says no other.

>>> [is_names(name) for name in ("Star name", "Authors", "Tournament", "Body")]
[True, True, False, False]
"""

from __future__ import annotations

import re

from hidden_frame.model.styles import CharacterStyle, ComputedStyle
from hidden_frame.model.text import Look

_CODE = ("code", "listing", "program", "verbatim")
_NAMES = re.compile(r"\b(?:names?|authors?|bylines?|credits?|persons?|people|species)\b")


def is_code(style_name: str) -> bool:
    """Whether a style is for what is typed as it is meant."""
    return any(word in style_name.lower() for word in _CODE)


def is_names(style_name: str) -> bool:
    """Whether a style is for names, which no dictionary holds."""
    return _NAMES.search(style_name.lower()) is not None


def is_checked(style: ComputedStyle, named: CharacterStyle | None, look: Look | None) -> bool:
    """Whether characters are looked up: as they say themselves, their character style, or their
    paragraph's style; one that says nothing, or “by its name”, is looked at by its name."""
    for said in (look, named):
        if said is not None and said.spelling not in (None, "by its name"):
            return said.spelling == "checked"
    if named is not None and _is_passed(named.name):
        return False
    if style.spelling != "by its name":
        return style.spelling == "checked"
    return not _is_passed(style.name)


def spelled_in(
    style: ComputedStyle, named: CharacterStyle | None, look: Look | None, language: str
) -> str:
    """The language in which characters are looked up, "" for none; `language` is that of the
    publication."""
    if not is_checked(style, named, look):
        return ""
    own = (said.language for said in (look, named) if said is not None and said.language)
    return next(own, None) or style.language or language


def _is_passed(style_name: str) -> bool:
    return is_names(style_name) or is_code(style_name)
