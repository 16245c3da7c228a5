"""The languages that a text can be in, by name."""

from __future__ import annotations

from functools import cache

from PySide6.QtCore import QLocale

from hidden_frame.typeset.hyphenation import languages


def language_name(code: str) -> str:
    """“English (United Kingdom)”; the code itself for one that has no name here."""
    locale = QLocale(code)
    if locale.language() == QLocale.Language.C:
        return code
    name = QLocale.languageToString(locale.language())
    if "_" not in code:
        return name
    return f"{name} ({QLocale.territoryToString(locale.territory())})"


@cache
def _known() -> tuple[tuple[str, str], ...]:
    return tuple(sorted((language_name(code), code) for code in languages()))


def language_options(follows: str = "") -> list[tuple[str, object]]:
    """Every language whose words can be divided; first, if wanted, to follow another's:
    “as the publication”."""
    first: list[tuple[str, object]] = [(follows, None)] if follows else []
    return [*first, *_known()]
