"""Which dictionary there is for a language: the user's own, one that ships, one of the system.

>>> dictionary_of("en_GB").name, dictionary_of("en_AU").name, dictionary_of("tlh")
('en_GB.aff', 'en_GB.aff', None)

A dictionary is a pair of files in Hunspell's format: `de.aff` with the rules of a language, and
`de.dic` with its words.
"""

from __future__ import annotations

import os
from functools import cache
from pathlib import Path

from platformdirs import user_data_path

from hidden_frame.resources import SPELLING

# Of a language without a country, or with one that has none of its own (from memory: the code
# under which the systems ship it).
_FIRST = {"en": "en_GB", "de": "de_DE", "pt": "pt_PT", "es": "es_ES", "nb": "nb_NO"}


def own_folder() -> Path:
    """Where a user puts dictionaries."""
    return user_data_path("hidden-frame") / "spelling"


def folders() -> list[Path]:
    """Where dictionaries are looked for, in this order."""
    system = os.environ.get("XDG_DATA_DIRS") or "/usr/local/share:/usr/share"
    shared = [Path(p) for p in system.split(":") if p]
    kinds = ("hunspell", "myspell/dicts", "myspell")
    return [own_folder(), SPELLING, *(p / kind for p in shared for kind in kinds)]


def dictionary_of(language: str) -> Path | None:
    """The rules' file of a language's dictionary: of its country, or of the language."""
    return _found(language, tuple(folders()))


@cache
def _found(language: str, places: tuple[Path, ...]) -> Path | None:
    alone = language.split("_")[0]
    names = dict.fromkeys((language, alone, _FIRST.get(alone, alone)))
    for name in names:
        for place in places:
            path = place / f"{name}.aff"
            if path.is_file() and path.with_suffix(".dic").is_file():
                return path
    others = (p for place in places for p in sorted(place.glob(f"{alone}_*.aff")))
    return next((p for p in others if p.with_suffix(".dic").is_file()), None)
