"""A kind of items that the program has never heard of: a star, added by a class and three rows,
goes through all that is said of kinds in one place: composed, overridden, carried, resized,
printed, saved and opened."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

import hidden_frame

SOURCE = Path(hidden_frame.__file__).parent

STAR = '''
import math
import sys
from pathlib import Path
from typing import Annotated

from msgspec import Meta

from hidden_frame.model import items


class Star(items._Item, frozen=True, kw_only=True, omit_defaults=True, tag="star",
           forbid_unknown_fields=True):
    """A star of so many points within its box."""

    points: Annotated[int, Meta(ge=3, le=50)] = 5


# Three rows, before anything else is loaded.
items.Item = items.Item | Star
items.KINDS[Star] = items.ItemKind("Star", ("points",), elastic=lambda item: False)
items.Override = items.partly(
    "Override", items.__name__, "-", (("item", str),),
    items.open_fields(items.KINDS, dict.fromkeys(
        n for kind in items.KINDS for n in items.overridable(kind))),
)
items.OVERRIDE_FIELDS = tuple(f for f in items.Override.__struct_fields__ if f != "item")

from hidden_frame.compose import kinds


def outline(star):
    corners = []
    for n in range(2 * star.points):
        r = 0.5 if n % 2 == 0 else 0.2
        a = math.pi * n / star.points - math.pi / 2
        corners.append((star.width * (0.5 + r * math.cos(a)),
                        star.height * (0.5 + r * math.sin(a))))
    return (("M", *corners[0]), *(("L", *c) for c in corners[1:]), ("Z",))


kinds.APPEARANCES[Star] = kinds.Appearance(outline)

import pypdfium2

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.compose.scene import PathPrimitive
from hidden_frame.edit.carry.pages import publication_of
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.apply import add_master, apply_masters
from hidden_frame.edit.masters.overrides import override
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.size.resize import resize
from hidden_frame.interact.hands.halves import may_be_halved
from hidden_frame.model.geometry import Size
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.paint import Fill
from hidden_frame.model.publication import Setup
from hidden_frame.model.valid import check_change
from hidden_frame.output.pdf import export_pdf
from hidden_frame.storage.format import load, save

folder = Path(sys.argv[1])
before = new_publication("Stars", Setup(trim=Size(200, 300), facing=True), 4)
publication, master = add_master(before, "Sky")
star = Star(id="", x=50, y=80, width=100, height=100, fill=Fill("ink"))
publication, item = add_item(publication, master, star)
pages = [page.id for page in all_pages(publication)]
publication = apply_masters(publication, pages, (master,))
publication = override(publication, pages[2], item, points=7, x=20.0)
check_change(before, publication)
assert publication.masters[-1].items[0].name.startswith("Star ")


def shown(publication, number):
    scene = Composer().compose(publication).scene(all_pages(publication)[number].id)
    (placed,) = scene.placed
    (path,) = [p for p in placed.drawing.primitives if isinstance(p, PathPrimitive)]
    return placed, path


for number, points in ((0, 5), (1, 5), (2, 7), (3, 5)):
    placed, path = shown(publication, number)
    assert len(path.commands) == 2 * points + 1, (number, len(path.commands))
    assert placed.name.startswith("Star ")
# Mirrored at the spine, and nothing is wrong with it.
assert round(shown(publication, 1)[0].matrix.e, 6) == 200 - 50 - 100
assert content_findings(Composer().compose(publication), {}) == []

# Saved and opened it is the same, and so is what is carried to another publication.
save(folder / "stars.hframe", publication, {})
assert load(folder / "stars.hframe").publication == publication
part = publication_of(publication, pages[2:3], "Part")
assert len(shown(part, 0)[1].commands) == 15
save(folder / "part.hframe", part, {})
assert load(folder / "part.hframe").publication == part

# A larger page: a star keeps its proportions.
larger = resize(publication, Size(400, 450))
made = larger.masters[-1].items[0]
assert abs(made.width / made.height - 1) < 1e-9 and not may_be_halved(made)

# In print its tips are ink, and what lies between them is paper.
export_pdf(Composer().compose(publication), {}, folder / "stars.pdf", pages[:1], bleed=0.0)
page = pypdfium2.PdfDocument(folder / "stars.pdf")[0].render(scale=2).to_pil().convert("L")
middle, tip, gap = page.getpixel((200, 260)), page.getpixel((200, 172)), page.getpixel((120, 180))
assert middle < 60 and tip < 60 and gap > 200, (middle, tip, gap)
print("done")
'''


def test_a_star_goes_through_everything(tmp_path):
    """In a process of its own: what the model reads is known before the first file is."""
    script = tmp_path / "star.py"
    script.write_text(STAR)
    ended = subprocess.run([sys.executable, str(script), str(tmp_path)],
                           capture_output=True, text=True)  # fmt: skip
    assert ended.stdout.strip() == "done", ended.stderr[-2000:]


def test_the_simplest_kind_is_known_by_few_files():
    """A new kind touches eight files at most: as many as name shapes, but for the demo."""
    naming = [
        path.relative_to(SOURCE).as_posix()
        for path in SOURCE.rglob("*.py")
        if "demo/" not in path.as_posix()
        and any(
            line.strip().startswith(("from hidden_frame.model.items import", "Shape,"))
            and "Shape" in line
            for line in path.read_text("utf-8").splitlines()
        )
    ]
    naming.append("model/items.py")
    assert len(naming) <= 8, naming
