"""Words as a book has them: a vocabulary in which few are common and most are rare (Zipf), with
punctuation, in English and German; the same for the same seed."""

from __future__ import annotations

import random
from functools import cache
from itertools import product

from hidden_frame.model.text import Paragraph, Run, Text
from hidden_frame.resources import SPELLING

VOCABULARY = 8_000


def _listed(words: str) -> list[str]:
    return words.split()


# The commonest of each language, in about this order (from memory).
_ENGLISH = _listed(
    """
the of and to a in that it is was he for on with as his they at be this from I have or by one had
not but what all were when we there can an your which their said if do will each about how up out
them then she many some so these would other into has more her two like him see time could no make
than first been its who now people my made over did down only way find use may water long little
very after words called just where most know
"""
)
_GERMAN = _listed(
    """
der die und in den von zu das mit sich des auf für ist im dem nicht ein eine als auch es an werden
aus er hat dass sie nach wird bei einer um am sind noch wie einem über einen so zum war haben nur
oder aber vor zur bis mehr durch man sein wurde sei hatte kann gegen vom können schon wenn habe
seine ihre dann unter wir soll ich eines Jahr zwei diese dieser wieder keine Uhr seiner Zeit
"""
)
# Stems and endings of which German makes its long words.
_STEMS = _listed(
    """
Abend Anfang Arbeit Aufgabe Bau Baum Berg Bericht Bild Blatt Boden Brief Buch Dach Dorf Druck
Erfahrung Feld Fenster Feuer Fluss Form Frage Garten Gebirge Gefahr Geschichte Gesellschaft Grenze
Hafen Handel Haus Himmel Holz Insel Jahr Kirche Kraft Kunst Land Leben Lehrer Licht Luft Markt
Meer Mittag Mond Nacht Natur Ordnung Papier Platz Recht Regen Reise Sache Schatten Schiff Schrift
Schule See Sommer Sonne Spiegel Sprache Stadt Stein Stern Strasse Stunde Tag Tal Tier Ufer Verkehr
Vogel Wagen Wald Wasser Weg Welt Werk Wetter Wind Winter Wissenschaft Wort Zahl Zeichen Zeit
Zimmer Zukunft
"""
)
_JOINTS = ("", "", "s", "en", "n")
_ENDINGS = (
    "",
    "",
    "en",
    "es",
    "er",
    "lich",
    "ung",
    "haft",
    "heit",
    "lichkeit",
    "ungen",
    "te",
    "ten",
)


@cache
def english() -> list[str]:
    """Words of the shipped dictionary, the commonest first."""
    rng = random.Random(8)
    rows = (SPELLING / "en_GB.dic").read_text("utf-8").splitlines()[1:]
    words = {row.split("/")[0] for row in rows}
    rare = sorted(w for w in words if w.isascii() and w.isalpha() and w.islower() and len(w) > 2)
    rng.shuffle(rare)
    rare.sort(key=lambda w: abs(len(w) - 6) + rng.random() * 6)  # short ones are commoner
    return list(dict.fromkeys([*_ENGLISH, *rare]))[:VOCABULARY]


@cache
def german() -> list[str]:
    """Stems, and words that are made of them, the commonest first."""
    rng = random.Random(8)
    made = [f"{a}{j}{b.lower()}{e}" for a, b, j, e in product(_STEMS, _STEMS, _JOINTS, ("", "n"))
            if rng.random() < 0.12]  # fmt: skip
    plain = [f"{s.lower() if e else s}{e}" for s, e in product(_STEMS, _ENDINGS)]
    rng.shuffle(made)
    rng.shuffle(plain)
    return list(dict.fromkeys([*_GERMAN, *plain, *made]))[:VOCABULARY]


def paragraphs(language: str, words: int, seed: int = 5) -> list[str]:
    """Paragraphs of 20 to 150 words in sentences of some 12, with commas, quotes and a dash now
    and then; so many words together."""
    rng = random.Random(seed)
    vocabulary = {"en": english, "de": german}[language]()
    weights = [1 / (n + 2.7) for n in range(len(vocabulary))]
    chosen = rng.choices(vocabulary, weights, k=words)
    found, at = [], 0
    while at < words:
        size = min(rng.randint(20, 150), words - at)
        part = chosen[at : at + size]
        at += size
        for n in range(0, size, rng.randint(9, 15)):
            part[n] = part[n][0].upper() + part[n][1:]
            if n:
                part[n - 1] += rng.choice((".", ".", ".", "?", "!"))
        for n in range(4, size, 11):
            if part[n][-1].isalpha():
                part[n] += rng.choice((",", ",", ";", " –"))
        if size > 60:
            part[20], part[28] = f"“{part[20]}", f"{part[28]}”"
        part[-1] = part[-1].rstrip(",;– ") + "."
        found.append(" ".join(part))
    return found


def story_text(language: str, words: int, style: str = "body") -> Text:
    """The same as paragraphs of a style."""
    return tuple(Paragraph(style, (Run(p),)) for p in paragraphs(language, words))
