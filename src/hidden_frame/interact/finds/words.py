"""Words as they are compared: without case, marks, endings and small words; one spelling.

Spellings and endings are common practice of English; no source.
"""

from __future__ import annotations

import unicodedata
from functools import cache, lru_cache

import regex

from hidden_frame.resources import FINDS

_WORD = regex.compile(r"[^\p{L}\p{N}#½]+")


@cache
def _english(kind: str) -> list[list[str]]:
    """The rows of one kind of the table of English words."""
    lines = (FINDS / "english.tsv").read_text("utf-8").splitlines()
    return [line.split("\t")[1].split() for line in lines if line.startswith(f"{kind}\t")]


# Words that people use for one another: each row is known by its first.
SAME = {word: row[0] for row in _english("same") for word in row}
_FORMS = dict(_english("form"))
# Words that nearly anything may be asked with, that say nothing, and that ask for an explanation.
WEAK, SMALL, ASKING = (frozenset(_english(k)[0]) for k in ("little", "nothing", "asking"))


@lru_cache(maxsize=16384)
def plain(typed: str) -> str:
    """Without case and marks.

    >>> plain("Café  NOIR")
    'cafe noir'
    """
    parts = unicodedata.normalize("NFKD", typed.casefold())
    bare = "".join(c for c in parts if not unicodedata.combining(c))
    return " ".join(bare.replace("’", "'").split())


@lru_cache(maxsize=16384)
def stem(word: str) -> str:
    """A word without its ending: plurals, -ing, -ed.

    >>> [stem(w) for w in ("pages", "foxes", "linking", "numbered", "columns", "images")]
    ['pag', 'fox', 'link', 'number', 'column', 'pictur']
    """
    if word.isdigit():
        return "0"  # one number is as good as another
    word = _FORMS.get(word, word)
    word = SAME.get(word) or SAME.get(word.removesuffix("s")) or word
    for ending in ("ings", "ing", "ed"):
        long = len(word) - len(ending) >= 3
        if word.endswith(ending) and long and not word.endswith("eed"):
            word = word[: -len(ending)]
            if len(word) > 3 and word[-1] == word[-2] and word[-1] not in "lsz":
                word = word[:-1]
            break
    if word.endswith("ies") and len(word) > 4:
        word = word[:-3] + "y"
    elif word.endswith(("xes", "ches", "shes", "sses")):
        word = word[:-2]
    elif word.endswith("s") and not word.endswith(("ss", "us", "is")) and len(word) > 3:
        word = word[:-1]
    return word[:-1] if len(word) > 3 and word.endswith("e") and word != "note" else word


@lru_cache(maxsize=16384)
def tokens(typed: str) -> tuple[str, ...]:
    """The words that say something, each as it is compared; all of them if none does.

    >>> tokens("How do I number the pages?")
    ('number', 'pag')
    """
    words = _split(typed)
    telling = [w for n, w in enumerate(words) if w not in SMALL and not _measured(words, n)]
    return tuple(stem(w) for w in telling or words)


def _measured(words: list[str], at: int) -> bool:
    """Whether a word is a number, or the unit behind one: “at 20 mm” says nothing of what."""
    return words[at].isdigit() or (
        at > 0 and words[at - 1].isdigit() and words[at] in ("mm", "cm", "in", "pt", "px", "inch")
    )


@lru_cache(maxsize=16384)
def stems(typed: str) -> tuple[str, ...]:
    """All words, small ones too, each as it is compared."""
    return tuple(stem(w) for w in _split(typed))


def _split(typed: str) -> list[str]:
    return [w for w in _WORD.split(plain(typed).replace("'s", "")) if w]
