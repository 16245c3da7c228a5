"""Made-up prose from a seeded generator: the same words for the same seed."""

from __future__ import annotations

from random import Random

_PEOPLE = ("Maren", "old Tobias", "the ferryman", "Ilse", "her brother", "the lamplighter",
           "Doctor Quill", "the miller’s widow", "a stranger", "Corvin")  # fmt: skip
_THINGS = ("lantern", "ledger", "causeway", "harbour wall", "winter orchard", "signal tower",
           "brass compass", "tide table", "letter", "boathouse", "weather glass", "long stair",
           "bell", "map of the shoals", "kitchen window", "island road")  # fmt: skip
_KINDS = ("narrow", "half-forgotten", "salt-white", "patient", "unlit", "borrowed", "familiar",
          "well-kept", "rain-dark", "northern", "quiet", "crooked", "silver-grey")  # fmt: skip
_DID = ("kept watch over", "asked after", "mended", "wrote about", "turned away from",
        "walked as far as", "remembered", "had never owned", "painted", "measured",
        "spoke kindly of", "searched for")  # fmt: skip
_PLACES = ("beyond the lower weir", "at the end of the breakwater", "under the eaves",
           "on the far shore", "where the two roads met", "above the tarn", "in the reading room",
           "behind the chandlery", "between the dunes")  # fmt: skip
_TIMES = ("That evening", "In the first week of frost", "Before the boats came in",
          "By the time the bells had stopped", "Every ninth day", "Long afterwards",
          "While the others slept", "At low water", "The year before",
          "Towards morning")  # fmt: skip
_ENDS = ("and nobody thought it strange", "as one does with a promise",
         "though the wind had risen",
         "until the light failed", "which was more than could be said of the rest",
         "and said no more about it", "for there was nothing else to do",
         "so that the house seemed larger than it was",
         "as if it had always been so")  # fmt: skip
_TITLES = ("The Breakwater", "A Ledger of Tides", "What the Ferryman Owed", "Lamps on the Causeway",
           "The Weather Glass", "An Island Road", "Nine Days of Fog", "The Signal Tower",
           "Letters to the North", "Low Water", "The Winter Orchard", "A Map of the Shoals",
           "The Long Stair", "Corvin’s Bell", "Silver and Salt", "The Last Lantern")  # fmt: skip


def titles(count: int) -> list[str]:
    """The titles of so many chapters."""
    return [_TITLES[n % len(_TITLES)] for n in range(count)]


def sentence(rng: Random) -> str:
    """One sentence of 12 to 40 words."""
    thing = f"{rng.choice(_KINDS)} {rng.choice(_THINGS)}"
    who, did, where = rng.choice(_PEOPLE), rng.choice(_DID), rng.choice(_PLACES)
    pattern = rng.randrange(5)
    if pattern == 0:
        said = f"{rng.choice(_TIMES)} {who} {did} the {thing} {where}, {rng.choice(_ENDS)}"
    elif pattern == 1:
        said = f"{who} {did} the {thing}, {rng.choice(_ENDS)}"
    elif pattern == 2:
        other = f"{rng.choice(_KINDS)} {rng.choice(_THINGS)}"
        said = f"There was a {thing} {where}, and beside it the {other} that {who} {did}"
    elif pattern == 3:
        said = f"“You will find the {thing} {where},” said {who}, {rng.choice(_ENDS)}"
    else:
        more = rng.choice(_PEOPLE)
        said = f"{who} {did} the {thing}; {more} {rng.choice(_DID)} the {rng.choice(_THINGS)}"
        said += f" {rng.choice(_PLACES)}"
    return said[:1].upper() + said[1:] + "."


def paragraph(rng: Random) -> str:
    """Three to nine sentences."""
    return " ".join(sentence(rng) for _ in range(rng.randint(3, 9)))
