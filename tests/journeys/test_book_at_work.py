"""A book that stands, worked on: written in at speed, parted and joined, chapters moved, pages put
in, a section taken to another publication."""

from __future__ import annotations

from msgspec.structs import replace
from tests.journeys.hands import Hands
from tests.journeys.manuscript import write
from tests.journeys.test_book import bare, said, saved, stands

from hidden_frame.model.lookup import all_pages
from hidden_frame.model.text import Note
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import load


def texts(publication) -> list[str]:
    """What each paragraph of the story says."""
    return ["".join(getattr(c, "text", "") for c in p.content) for p in publication.stories[0].text]


def written_in(publication) -> tuple:
    """The story without the numbers of its notes, which are worked out."""
    return tuple(
        replace(p, content=tuple(
            replace(c, number="") if isinstance(c, Note) else c for c in p.content
        ))
        for p in publication.stories[0].text
    )  # fmt: skip


def sound(hands: Hands):
    """The publication, which is settled, and whose pages say what its story says, in order."""
    now = hands.publication
    assert bare("".join(texts(now))) == said(now)
    assert settled(now) is now
    return now


def show(hands: Hands, position: int) -> None:
    hands.ask(
        lambda: hands.session.show_page(all_pages(hands.session.publication)[position - 1].id)
    )
    hands.rest()


def write_on(hands: Hands, position: int, x: float, y: float) -> None:
    """A double click into the text of a page."""
    show(hands, position)
    hands.fingers.click(*hands.on_page(x, y), times=2)
    hands.rest()


def caret_before(hands: Hands, words: str) -> None:
    """The caret before the paragraph that says so, on whichever page it stands."""
    story, number = hands.publication.stories[0].id, texts(hands.publication).index(words)
    hands.ask(lambda: hands.window.desk.text.write_at(story, (number, 0)))
    hands.rest()


def select_to(hands: Hands, words: str) -> None:
    """By arrows, on over as many pages as it takes, to the head of another paragraph."""
    text, end = hands.window.desk.text, texts(hands.publication).index(words)
    while hands.ask(lambda: text.caret[0]) < end:
        for _ in range(10):
            hands.fingers.keys("Shift+Down")
        hands.rest()
    while hands.ask(lambda: text.caret[0]) > end:
        hands.keys("Shift+Up")
    hands.keys("Shift+Home")


def in_the_run(hands: Hands) -> bool:
    """Whether the page that is worked on can be seen in the Run."""
    run = hands.window.run
    middle = run.rect_of(hands.session.page_id).center().toPoint()
    return bool(run.viewport().rect().contains(middle))


def test_a_day_at_work_on_a_book(day, tmp_path):
    source, book = tmp_path / "nights.docx", tmp_path / "nights.hframe"
    write(source)

    def journey(hands: Hands) -> None:
        hands.step("a pocket book with a manuscript in it, saved")
        hands.press("Pocket book")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 1, "no window opens")
        hands.fill_screen()
        hands.keys("Ctrl+Shift+i")
        hands.file(source)
        hands.press("Bring in")
        hands.gone(60)
        hands.keys("Ctrl+Shift+s")
        hands.file(book)
        hands.until(lambda: book.exists() and not hands.session.modified, "it is not saved", 60)

        hands.step("words at speed in the middle of the book")
        quick = "quick as rain on slates and twice as grey "
        write_on(hands, 21, 110, 150)
        hands.keys("Left")
        hands.type(quick, 0.0)
        assert quick in "".join(texts(sound(hands)))

        hands.step("a paragraph parted near the end of a page, and joined again")
        write_on(hands, 22, 110, 440)
        hands.keys("End")
        before = hands.publication
        hands.keys("Enter")
        assert len(texts(sound(hands))) == len(texts(before)) + 1
        hands.keys("Back")
        now = sound(hands)
        assert now.stories[0].text == before.stories[0].text and stands(now) == stands(before)

        hands.step("a selection over two pages, cut and pasted")
        write_on(hands, 24, 110, 300)
        hands.keys("Left")
        for _ in range(40):
            hands.fingers.keys("Shift+Down")
        before = hands.publication
        hands.keys("Ctrl+x")
        assert len("".join(texts(sound(hands)))) < len("".join(texts(before))) - 500
        hands.keys("Ctrl+v")
        assert texts(sound(hands)) == texts(before)
        hands.until(lambda: in_the_run(hands), "the Run does not follow the caret")
        hands.keys("Esc")

        hands.step("ten pages put in: no word is moved")
        show(hands, 12)
        before = hands.publication
        hands.menu("Pages", "Add pages…")
        hands.fill("Number of pages", "10")
        hands.press("Add")
        hands.gone()
        now = sound(hands)
        assert len(all_pages(now)) == len(all_pages(before)) + 10
        assert now.stories[0].text == before.stories[0].text

        hands.step("a section that begins with a chapter follows it behind another one")
        ledger = next(
            n for n, p in enumerate(all_pages(now), 1) if "TheLedger" in stands(now).get(p.id, "")
        )
        show(hands, ledger)
        hands.menu("Sections", "Start a section here…")
        hands.fill("Name", "Ledger")
        hands.press("Start section")
        hands.gone()
        whole = written_in(hands.publication)
        first, end = (texts(hands.publication).index(t) for t in ("The Ledger", "Weather"))
        caret_before(hands, "The Ledger")
        select_to(hands, "Weather")
        hands.keys("Ctrl+x")
        assert written_in(sound(hands)) == (*whole[:first], *whole[end:])
        caret_before(hands, "Salt")
        to = texts(hands.publication).index("Salt")
        hands.keys("Ctrl+v")
        hands.keys("Esc")
        now, rest = sound(hands), (*whole[:first], *whole[end:])
        assert written_in(now) == (*rest[:to], *whole[first:end], *rest[to:])
        section = now.sections[-1]
        assert section.name == "Ledger"
        assert "TheLedger" in stands(now)[section.pages[0].id]
        assert saved(hands, book) == now

        hands.step("the section copied to another publication, with its words")
        hands.keys("F2")
        hands.menu("Pages", "Select", "Select the pages of this section")
        hands.keys("Ctrl+c")
        hands.keys("Ctrl+n")
        hands.choose("Kind", "Pocket book")
        hands.press("Create")
        hands.until(lambda: len(hands.windows.open_ones) == 2, "no window opens")
        hands.fill_screen()
        hands.keys("F2")
        hands.keys("Ctrl+v")
        hands.pick("Bring only the words on these pages")
        hands.gone()
        there = sound(hands)
        copied = there.sections[-1]
        assert copied.name == "Ledger" and len(there.stories) == 1
        assert "TheLedger" in stands(there)[copied.pages[0].id]
        view = hands.window.flatplan.view
        hands.until(
            lambda: view.viewport().rect().intersects(view.rect_of(copied.pages[0].id).toRect()),
            "the flatplan does not show what was put in",
        )

        hands.step("the first publication is as it was")
        assert load(book).publication == now

    hands = day(journey)
    assert not [waited for waited, _ in hands.slow if waited > 10]
