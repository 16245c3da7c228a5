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
        "Late April brings the best of it. The Lion has passed the meridian by ten, the Virgin’s "
        "field stands over the workshop roof, and a patient observer can walk from one small "
        "grey oval to the next without once looking up from the eyepiece. Go slowly, and count: "
        "the ridge record for one sitting is sixty-three.",
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
        "Towards the end of August the nights lengthen by four minutes each evening, and the "
        "Square begins to lean over the eastern trees. It is the season’s way of saying that the "
        "chairs should soon be carried in again, and that somebody ought to look for the dew "
        "heaters before they are needed.",
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
        "The great reflector is washed in October, with rain water and a good deal of ceremony. "
        "For three nights the dome then shows nothing at all, and the terrace is crowded; bring "
        "binoculars of your own, and a neighbour’s, if the neighbour has them. The first clear "
        "night afterwards is always the finest of the year, or seems so.",
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
        "By the middle of February the evenings lengthen. The Twins stand upright, the Crab has "
        "reached the ridge, and on still nights the frost can be heard settling on the roof of "
        "the dome. Those who stayed until then may sign the winter list in the corridor; the "
        "pencil hangs on a string, for ink freezes.",
    ),
}

# From the log of the dome: a date and what was written down.
LOG = {
    "Spring": (
        ("4 March", "Gate frozen. Saw the Beehive from the car park, by hand."),
        ("19 March", "Eleven in one field; the twelfth was a thumb on the glass."),
        ("2 April", "Fog until two, then everything at once."),
        ("23 April", "Sixty-three, with witnesses. Tea ran out at fifty."),
    ),
    "Summer": (
        ("9 June", "Not dark, but warm. Nobody went home."),
        ("1 July", "The Swan overhead; a bat in the dome, later two."),
        ("12 August", "One hundred and four meteors, one of them green."),
        ("30 August", "First dew. The heaters are in the other drawer."),
    ),
    "Autumn": (
        ("7 September", "Mounts aligned. The spirit level was not level."),
        ("15 October", "Mirror washed. Rain water, two towels, no hands."),
        ("18 October", "The finest night of the year, as always."),
        ("11 November", "The smudge by eye, from the bench, without a hat."),
    ),
    "Winter": (
        ("13 December", "Minus eleven. Three pairs of gloves, one key lost."),
        ("5 January", "Ten bright ones at midnight; all ten had colours."),
        ("22 January", "Wings on the nebula in the great reflector."),
        ("14 February", "Signed the list. The pencil still writes."),
    ),
}

FOREWORD = (
    "This is the twelfth almanac of the observatory on Kestrel Ridge. Like its forerunners it "
    "was put together in the warm room, between clouds, by people who would rather have been "
    "outside.",
    "Each season has its opener, an article, and three month tables. The tables give the hours "
    "of darkness, the Moon, and one thing worth the walk up the hill on each clear night of the "
    "week. All times are those of the ridge.",
    "Nothing in it was measured twice unless it was wrong the first time. Where two observers "
    "disagreed, the one who had stayed longer in the cold was believed.",
    "The notes pages at the end are yours. Fill them, and bring the book back in December: the "
    "best page is printed in the next one.",
)

# The same sentence (the stars wait for whoever waits) as three guests wrote it into the book.
GUESTS = (
    "Τα άστρα περιμένουν όποιον περιμένει.",
    "הכוכבים מחכים למי שמחכה.",
    "النجوم تنتظر من ينتظر.",
)

HOW_TO = (
    ("Dark hours", "from the end of evening twilight to the start of the morning’s."),
    ("Moon", "its age in days at midnight, and the share that is lit."),
    ("Look for", "one object a week, easiest first; a small telescope shows all of them."),
    ("Walk", "the state of the path: dry, damp, icy, or closed."),
)

# A row of a month table, and what it tells.
EXAMPLE = ("12", "19:40 – 4:52", "9 d, 64 %", "the Beehive", "damp")
EXAMPLE_TOLD = (
    "On the twelfth it is dark from twenty to eight until eight minutes to five. The Moon is nine "
    "days old, and nearly two thirds of it are lit: it sets after midnight, so the faint things "
    "come late. The Beehive is the one to look for, and the path asks for boots.",
    "A month has twelve such rows. The eight discs above a table show the Moon through it.",
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
MONTH_ROWS = 12
_PATHS = ("dry", "damp", "dry", "icy", "dry", "closed", "damp")


def month_rows(month: str) -> list[tuple[str, ...]]:
    """Twelve invented rows of a month table: day, dark hours, Moon, look for, walk."""
    rng = random.Random(month)
    rows: list[tuple[str, ...]] = []
    day = rng.randint(1, 4)
    age = rng.randint(0, 28)
    while len(rows) < MONTH_ROWS:
        dusk, dawn = rng.randint(18, 22), rng.randint(2, 6)
        lit = round(50 * (1 - abs(14.75 - age % 29.5) / 14.75) * 2)
        hours = f"{dusk}:{rng.randint(0, 59):02} – {dawn}:{rng.randint(0, 59):02}"
        moon = f"{age % 30} d, {lit} %"
        rows.append((f"{day}", hours, moon, rng.choice(_TARGETS), rng.choice(_PATHS)))
        left = MONTH_ROWS - len(rows)
        day += rng.randint(1, max(1, (30 - day) // max(left, 1) + 1)) if left else 0
        age += 3
    return rows


def moon_ages(month: str) -> list[float]:
    """Ages of eight invented moons through a month, 0 to 1."""
    rng = random.Random(month + "moon")
    first = rng.random()
    return [(first + n / 8) % 1 for n in range(8)]
