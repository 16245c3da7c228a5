"""The almanac's words and figures.  All of it is made up."""

from __future__ import annotations

import random

SEASONS = {
    "Spring": ("March", "April", "May"),
    "Summer": ("June", "July", "August"),
    "Autumn": ("September", "October", "November"),
    "Winter": ("December", "January", "February"),
}

OPENERS = {
    "Spring": "Galaxies climb out of the east, and the mud on the ridge road dries.",
    "Summer": "Short nights, warm stone, and the river of stars from edge to edge.",
    "Autumn": "The Great Square stands over the dome, and the first frost sharpens it.",
    "Winter": "Long nights of hard light; bring two pairs of gloves and a thermos.",
}

CAPTION = "The dome on the second night of the year, from the bench by the gate."

ARTICLES = {
    "Spring": (
        "Looking away from home",
        "In spring the evening side of the Earth looks out of the flat disc of our galaxy "
        "rather than along it. There is less dust in the way, fewer stars, and a great deal of "
        "depth. From the ridge, on a night without moon, the small refractor shows eleven "
        "galaxies in a single field near the Lion’s hind foot.",
        "The season starts late here. Until the middle of March the access road is closed above "
        "the second gate, and the volunteers carry the eyepieces up in rucksacks. Dew is the "
        "chief nuisance: the ridge stands just above the fog on most mornings, and just inside "
        "it on the others. Heater bands are kept in the drawer marked “Socks”.",
        "Begin with the Beehive, which needs no telescope, and work eastward. By the time the "
        "Herdsman’s orange lamp is well up, the eye has had forty minutes of darkness and is "
        "ready for the faint things. Write down what was not seen as well as what was: a "
        "careful blank is an observation too.",
    ),
    "Summer": (
        "The bright river",
        "For eight weeks the sky over Kestrel Ridge never grows entirely dark. A band of "
        "twilight walks along the northern horizon from sunset to sunrise, and the observers "
        "walk with it, turning their chairs a little every hour.",
        "What summer lacks in darkness it gives back in warmth. The dome is open on all public "
        "nights, the wide-field binoculars stand on the terrace, and the Milky Way runs from the "
        "Archer in the south, over the Eagle and the Swan, down into the trees behind the "
        "workshop. Sweep slowly. Every few degrees there is a knot of light with a name.",
        "The August meteors are counted from the meadow. Lie with the feet to the north-east, "
        "count for fifteen minutes, rest for five, and give the sheet to whoever holds the red "
        "torch. Counts from the last thirty summers hang in the corridor, and nobody has yet "
        "beaten the year of the power cut.",
    ),
    "Autumn": (
        "A square and a smudge",
        "Autumn’s stars are modest, and that is its charm: four of them make a large, empty "
        "square, and from its corner a chain of two leads to the farthest thing that the unaided "
        "eye can see. It is a smudge, and its light is older than our kind.",
        "The workshop re-aligns the mounts in the first week of September. Members who would "
        "like to learn how are welcome; no more is needed than patience and a spirit level. "
        "Towards November the seeing is at its best an hour before dawn, when the valley has "
        "given up its heat and the air over the ridge lies still.",
        "Two occultations of bright stars by the Moon fall in this season. Times in the tables "
        "are for the dome; at the lower car park they are eleven seconds later.",
    ),
    "Winter": (
        "Hard light",
        "No other season has so many bright stars in so small a piece of sky. Ten of the "
        "twenty-five brightest stand above the southern ridge at midnight in January, and each "
        "has a colour of its own, which a slightly defocused eyepiece will show at once.",
        "Cold is the winter observer’s craft. Eat before going out. Keep spare batteries in an "
        "inner pocket, breathe away from the glass, and let the mirror cool for an hour with the "
        "shutter open. The warm room is warm only by comparison.",
        "The nebula in the Hunter’s sword rewards every aperture. In the finder it is a star "
        "that will not focus; in the great reflector it has wings, and a dark bay between them, "
        "and in the bay four points like a dropped handful of salt.",
    ),
}

FOREWORD = (
    "This is the twelfth almanac of the observatory on Kestrel Ridge. Like its forerunners it "
    "was put together in the warm room, between clouds, by people who would rather have been "
    "outside.",
    "Each season has its opener, an article, and three month tables. The tables give the hours "
    "of darkness, the Moon, and one thing worth the walk up the hill on each clear night of the "
    "week. All times are those of the ridge.",
    "The notes pages at the end are yours. Fill them, and bring the book back in December: the "
    "best page is printed in the next one.",
)

HOW_TO = (
    ("Dark hours", "from the end of evening twilight to the start of the morning’s."),
    ("Moon", "its age in days at midnight, and the share that is lit."),
    ("Look for", "one object a week, easiest first; a small telescope shows all of them."),
    ("Walk", "the state of the path: dry, damp, icy, or closed."),
)

VISITS = (
    "The dome opens at dusk on public nights. From the lower car park it is a walk of twenty "
    "minutes; the path is marked with white stones. Please use red torches only above the gate.",
    "Groups of more than ten should write first. There is tea, and there are two chairs with arms.",
)

_TARGETS = (
    "the Beehive", "a double in the Swan", "the Ring", "Saturn, low", "the Lion’s trio",
    "the Dumbbell", "the Square’s corner", "Jupiter’s moons", "a comet, perhaps", "the Hyades",
    "the Sword", "the Whirlpool", "Venus at dusk", "the Owl", "the Crab", "the Wild Duck",
)  # fmt: skip
_PATHS = ("dry", "damp", "dry", "icy", "dry", "closed", "damp")


def month_rows(month: str) -> list[tuple[str, ...]]:
    """Invented rows of a month table: week, dark hours, Moon, look for, walk."""
    rng = random.Random(month)
    rows: list[tuple[str, ...]] = []
    day = rng.randint(1, 6)
    age = rng.randint(0, 28)
    while day <= 30:
        dusk, dawn = rng.randint(18, 22), rng.randint(2, 6)
        lit = round(50 * (1 - abs(14.75 - age % 29.5) / 14.75) * 2)
        hours = f"{dusk}:{rng.randint(0, 59):02} – {dawn}:{rng.randint(0, 59):02}"
        moon = f"{age % 30} d, {lit} %"
        rows.append((f"{day}", hours, moon, rng.choice(_TARGETS), rng.choice(_PATHS)))
        day += rng.randint(2, 4)
        age += 3
    return rows


def moon_ages(month: str) -> list[float]:
    """Ages of eight invented moons through a month, 0 to 1."""
    rng = random.Random(month + "moon")
    first = rng.random()
    return [(first + n / 8) % 1 for n in range(8)]
