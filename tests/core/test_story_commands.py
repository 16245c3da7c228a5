"""Stories from the command line, and how they stand in words."""

from __future__ import annotations

import io
import json
import subprocess
import sys

import docx
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from pypdf import PdfReader

from hidden_frame.checks.content import content_findings
from hidden_frame.compose.composer import Composer
from hidden_frame.demo.book import long_book
from hidden_frame.demo.driven import driven_book
from hidden_frame.edit.change import change_story
from hidden_frame.edit.items.draw import add_item, change_items
from hidden_frame.edit.stories import pour, set_grows, set_story_text
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.words.storied import helped, offers, state
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_story
from hidden_frame.model.text import Marker, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import load, save


def run(*arguments, code=0):
    command = [sys.executable, "-m", "hidden_frame.cli", *map(str, arguments)]
    done = subprocess.run(command, capture_output=True, text=True)
    assert done.returncode == code, done.stderr
    return done


@pytest.fixture(scope="module")
def book():
    return settled(long_book(chapters=1))


def test_a_manuscript_is_poured_listed_and_written_out(book, tmp_path):
    path, new = tmp_path / "book.hframe", tmp_path / "new.hframe"
    save(path, book, {})
    source = tmp_path / "more.md"
    source.write_text("# One more\n\n" + "Words of the *author* again. " * 900)
    done = run("pour", source, path, "--section", "the lamplighters", "--out", new)
    assert "2 paragraphs came." in done.stdout and "Fits" in done.stdout
    row = json.loads(run("stories", new, "--json").stdout)
    opened = load(new).publication
    story = opened.stories[0]
    assert row["name"] == story.name and row["fits"] and row["words_left_over"] == 0
    assert row["words"] == len(plain(story.text).split())
    assert row["last"]["position"] == len(all_pages(opened)) > len(all_pages(book))
    assert row["first"] == {"folio": "1", "position": 5}
    assert "words" in run("stories", new).stdout
    out = tmp_path / "out.docx"
    run("story", new, "The Lamplighters", out)
    said = [p.text for p in docx.Document(io.BytesIO(out.read_bytes())).paragraphs]
    assert said[-1].startswith("Words of the author") and len(said) == len(story.text)


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("pour", "none.txt", "{book}"), "can't be read"),
        (("pour", "{text}", "{book}", "--section", "Nowhere"), "no section “Nowhere”"),
        (("pour", "{text}", "{book}", "--out", "new.txt"), "should end in .hframe"),
        (("pour", "{text}", "{book}", "--encoding", "ascii"), "ascii"),
        (("story", "{book}", "Nothing", "out.md"), "no story “Nothing”"),
        (("story", "{book}", "The Lamplighters", "out.pdf"), "can't be written as .pdf"),
    ],
)
def test_what_can_not_be_done_is_said_in_one_sentence(book, tmp_path, arguments, said):
    path, text = tmp_path / "book.hframe", tmp_path / "a.txt"
    save(path, book, {})
    text.write_text("Größe", "utf-8")
    before = path.read_bytes()
    done = run(*(a.format(book=path, text=text) for a in arguments), code=1)
    assert said in done.stderr and done.stderr.count("\n") == 1
    assert path.read_bytes() == before


def test_the_demo_book_is_written_and_flows(tmp_path):
    path = tmp_path / "long.hframe"
    run("demo", path, "--book")
    publication = load(path).publication
    assert 200 <= len(all_pages(publication)) <= 260
    assert settled(publication) is publication
    assert long_book() == long_book()


def test_the_demo_book_is_driven_by_its_text(tmp_path):
    """Masters, heads, contents and the reference of a shorter one, as the commands tell them."""
    path = tmp_path / "driven.hframe"
    publication = settled(driven_book(chapters=3))
    save(path, publication, {})
    pages = json.loads("[" + ",".join(run("pages", path, "--json").stdout.splitlines()) + "]")
    opening = [p for p in pages if p["masters"] == ["Chapter opener"]]
    said = run("contents", path).stdout
    assert len(opening) == 3
    assert all(p["side"] == "recto" and p["folio"] in said for p in opening)
    assert [p["heads"] for p in opening] == [[], [], []]
    chapter = 0
    for page in pages[4:-2]:
        chapter += page in opening
        if page["masters"] == ["Text page"]:
            assert page["heads"][0].startswith(f"{chapter} · ")
    told = next(p for p in publication.stories[0].text[2].content if isinstance(p, Marker))
    assert told.refers.said == opening[-1]["folio"]
    kinds = {f.kind for f in content_findings(Composer().compose(publication), {})}
    fine = {"looser", "same word", "river"}
    assert kinds <= fine | {"idle rule"}  # so few chapters may leave no page without text


def test_the_words_of_a_pdf_are_those_of_the_story_in_order(book):
    """Read by pypdf: every word of the story, page after page."""
    publication = book
    story = publication.stories[0]
    reader = PdfReader(io.BytesIO(pdf_bytes(Composer().compose(publication), {})))
    words = plain(story.text).split()
    head = {"The", "Lamplighters", "of", "Harrow", "Tarn"}
    read: list[str] = []
    for number, page in enumerate(reader.pages[4:], 1):
        lines = page.extract_text().replace("\u200b", "").split("\n")
        kept = [x for x in lines if not (set(x.split()) <= head or x.strip() == str(number))]
        read += " ".join(kept).split()
    unnumbered = "".join(c for c in "".join(read) if not c.isdigit())  # chapters have numbers
    assert unnumbered.replace("-", "") == "".join(words).replace("-", "")


def small(words, height=100.0, pages=2):
    publication = long_book(chapters=1)
    publication = replace(publication, sections=publication.sections[1:])
    story = publication.stories[0].id
    publication = set_story_text(publication, story, (Paragraph("body", (Run(words),)),))
    master = next(m for m in publication.masters if m.name == "Text page")
    main = next(i for i in master.items if isinstance(i, TextFrame) and i.main)
    return change_items(publication, master.id, {main.id: {"height": height}}), story


@given(words=st.integers(1, 300), height=st.floats(20, 300))
def test_how_a_story_stands_agrees_with_what_is_seen(words, height):
    publication, story = small("sky " * words, height)
    publication = set_grows(publication, story, False)
    composition = Composer().compose(publication)
    now, flow = state(composition, story), composition.flow(story)
    shown = sum(p.words for p in flow.parts)
    assert now.words == words and now.left == words - shown and now.fits == (flow.rest is None)
    if now.fits:
        assert now.sentence.startswith("Fits, ")
        # so many lines more, and not one beyond
        more = "".join("\u2028sky" for _ in range(now.lines))
        longer = set_story_text(
            publication, story, (Paragraph("body", (Run("sky " * words + more),)),)
        )
        assert Composer().compose(longer).flow(story).rest is None
        longer = set_story_text(
            publication, story, (Paragraph("body", (Run("sky " * words + more + "\u2028x"),)),)
        )
        assert Composer().compose(longer).flow(story).rest is not None
    else:
        assert f"{now.left:,} word" in now.sentence and now.sentence.endswith(".")


def test_every_offer_helps():
    publication, story = small("sky " * 900)
    publication = set_grows(publication, story, False)
    kinds = [o.kind for o in offers(Composer().compose(publication), story)]
    assert kinds == ["grow", "pages", "jump"]
    section = publication.sections[0].id
    for kind in ("grow", "pages"):
        after = settled(helped(publication, story, kind, section))
        assert Composer().compose(after).flow(story).rest is None
        assert any(p.made for p in all_pages(after)) == (kind == "grow")


def test_a_story_without_frames_says_so_and_is_let_into_the_section():
    publication, story = small("sky " * 30)
    publication = change_story(publication, story, lambda s: replace(s, path=()))
    composition = Composer().compose(publication)
    assert state(composition, story).sentence == "30 words do not fit: no frame shows it."
    assert [o.kind for o in offers(composition, story)] == ["flow"]
    after = helped(publication, story, "flow", publication.sections[0].id)
    assert Composer().compose(after).flow(story).rest is None


def test_pouring_twice_adds_to_the_end_and_a_frame_of_its_own_stays_its_own():
    publication, story = small("one")
    publication, again = pour(
        publication, publication.sections[0].id, (Paragraph("body", (Run("two"),)),)
    )
    assert again == story and plain(find_story(publication, story).text) == "one\ntwo"
    page = all_pages(publication)[0].id
    own = TextFrame(id="", x=0, y=0, width=90, height=20, text=(Paragraph("body", (Run("own"),)),))
    publication, _ = add_item(publication, page, own)
    assert "own" in Composer().compose(publication).scene(page).text_of()
