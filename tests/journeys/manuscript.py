"""A made-up manuscript as an author sends it: two levels of headings, some with long titles, lists
within lists, quotations, notes, small capitals."""

from __future__ import annotations

from pathlib import Path
from random import Random

from hidden_frame.demo.prose import paragraph
from hidden_frame.storage.manuscripts.manuscript import ManuscriptRun, Noted, Para
from hidden_frame.storage.manuscripts.write import written

LONG = "On the keeping of lamps through the long nights of the year, and what was thought of it"
CHAPTERS = (
    "The Keeper", LONG, "The Ledger", "Weather", "The Tide Table", "Salt", "A Winter of Letters",
)  # fmt: skip


def paragraphs(seed: int = 7) -> list[Para]:
    """About 13,000 words."""
    rng = Random(seed)
    found: list[Para] = []
    for number, title in enumerate(CHAPTERS, 1):
        found.append(Para("Heading 1", (ManuscriptRun(title),)))
        for part in range(2):
            if part or number % 2:  # every other chapter begins without a section
                found.append(Para("Heading 2", (ManuscriptRun(f"Section {number}.{part + 1}"),)))
            for n in range(12):
                words = paragraph(rng)
                pieces = [ManuscriptRun(words)]
                if n == 3:
                    note = Noted((ManuscriptRun(f"Note of section {number}.{part + 1}."),))
                    pieces.append(ManuscriptRun("1", beside=note))
                if n == 5:
                    pieces.insert(0, ManuscriptRun("Anno Domini ", small_capitals=True))
                found.append(Para("Normal", tuple(pieces)))
            found.append(Para("Quote", (ManuscriptRun(paragraph(rng)),)))
            found += [
                Para("List bullet", (ManuscriptRun("oil, of the best"),), 1),
                Para("List bullet 2", (ManuscriptRun("from the north"),), 2),
                Para("List bullet", (ManuscriptRun("wicks, cut short"),), 1),
            ]
    return found


def write(path: Path) -> list[Para]:
    """The manuscript as a .docx, and what is in it."""
    made = paragraphs()
    path.write_bytes(written(made, "docx", "The Long Nights"))
    return made


def words_of(several: list[Para]) -> list[str]:
    """Its words, in order."""
    return [w for p in several for s in p.stretches if s.beside is None for w in s.text.split()]
