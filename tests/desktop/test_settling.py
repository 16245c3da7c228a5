"""What an edit brings with it, in the window: as by scripts, and in slices where it is long."""

from __future__ import annotations

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QDialog, QInputDialog

import hidden_frame as hf
from hidden_frame.compose.composer import Composer
from hidden_frame.demo.driven import driven_book
from hidden_frame.desktop.dialogs.manuscript import ManuscriptDialog
from hidden_frame.desktop.dialogs.order import SectionDialog
from hidden_frame.desktop.panels.properties.page import PageForm
from hidden_frame.desktop.state import session as session_module
from hidden_frame.desktop.state.session import Session
from hidden_frame.edit.about import set_title
from hidden_frame.edit.masters.apply import add_master
from hidden_frame.edit.masters.rules import remove_rule
from hidden_frame.edit.pages.order import add_pages, delete_pages
from hidden_frame.edit.pages.sections import number_from, start_section
from hidden_frame.edit.stories import set_story_text
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import all_pages, find_story, section_of
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import save
from hidden_frame.storage.manuscripts.manuscript import ManuscriptRun, Para
from hidden_frame.storage.manuscripts.write import written

RAW = driven_book(chapters=2)
BOOK = settled(RAW)
STORY = BOOK.stories[0].id


def longer(publication, times=2):
    return set_story_text(publication, STORY, find_story(publication, STORY).text * times)


@pytest.fixture
def book(hands):
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(5))
    hands.app.processEvents()
    return hands


@pytest.fixture
def patient(monkeypatch):
    """Nothing is so quick that it is done at once."""
    monkeypatch.setattr(session_module, "AT_ONCE", 0.0)


EDITS = st.lists(st.tuples(st.sampled_from(["words", "less", "title", "pages", "gone", "section",
                                            "one", "rule", "blind"]), st.integers(0, 99)),
                 min_size=1, max_size=4)  # fmt: skip


def edited(publication, kind, n):
    pages = [p.id for p in all_pages(publication)]
    text = find_story(publication, STORY).text
    match kind:
        case "words":
            return set_story_text(publication, STORY, (*text, *text[: n % 40]))
        case "less":
            return set_story_text(publication, STORY, text[: max(len(text) - n % 60, 1)])
        case "title":
            return set_title(publication, f"Lamps {n}")
        case "pages":
            section = publication.sections[n % len(publication.sections)]
            return add_pages(publication, section.id, n % 3, 1 + n % 2)[0]
        case "gone":
            return delete_pages(publication, pages[n % 7 :: 9])
        case "section":
            return start_section(publication, pages[n % len(pages)], "New")[0]
        case "one":
            return number_from(publication, pages[n % len(pages)])[0]
        case "rule":
            rules = publication.rules
            return remove_rule(publication, rules[n % len(rules)].id) if rules else publication
    return publication


@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
@given(EDITS)
def test_the_same_edits_by_window_and_by_script_are_equal_and_settled(dressed, edits):
    window, script = Session(BOOK), hf.Document(BOOK)
    for kind, n in edits:

        def change(publication, kind=kind, n=n):
            return edited(publication, kind, n)

        window.edit(kind, change)
        try:
            script.edit(kind, change)
        except Refusal:
            continue
        assert script.publication == window.history.now
    assert settled(script.publication, Composer()) is script.publication
    window.deleteLater()


def test_several_edits_are_one_step_and_settled_once():
    document = hf.Document(BOOK)
    with document.step("all of it"):
        document.edit("words", longer)
        document.set_title("Twice as long")
        assert len(document.pages) == len(all_pages(BOOK))  # pages follow at the end
    assert len(document.pages) > len(all_pages(BOOK)) * 1.6
    document.undo()
    assert document.publication is BOOK
    with pytest.raises(Refusal), document.step("in vain"):
        document.set_title("Not kept")
        document.apply("No such master", "1")
    assert document.publication is BOOK


def test_what_takes_long_is_seen_as_it_grows_and_is_one_step(book, patient, qtbot):
    session = book.session
    session.edit("words", lambda p: longer(p, 3))
    assert session.settles and not session.kept.past
    assert session.publication is not BOOK  # what is there so far is seen
    qtbot.waitUntil(lambda: not session.settles, timeout=30_000)
    assert len(session.history.past) == 1 and session.draft is None
    now = session.history.now
    assert now == settled(longer(BOOK, 3)) and settled(now, Composer()) is now
    session.undo()
    assert session.publication is BOOK


def test_who_goes_on_does_not_wait_and_loses_nothing(book, patient):
    session = book.session
    session.edit("words", lambda p: longer(p, 2))
    assert session.settles
    session.edit("title", lambda p: set_title(p, "Meanwhile"))
    session.edit("words", lambda p: longer(p, 1))
    past = session.history.past
    assert [s.name for s in past][:2] == ["words", "title"]
    assert session.history.now.title == "Meanwhile"
    assert session.history.now == settled(set_title(settled(longer(BOOK, 2)), "Meanwhile"))


def test_a_fault_on_the_way_changes_nothing_and_is_told(book, patient, monkeypatch, qtbot):
    session, said = book.session, []
    session.noticed.connect(said.append)

    def faulty(publication, composer, sliced=True):
        yield publication
        raise RuntimeError("a fault nobody foresaw")

    monkeypatch.setattr(session_module, "settling", faulty)
    session.edit("words", longer)
    qtbot.waitUntil(lambda: not session.settles, timeout=5_000)
    assert session.publication is BOOK and not session.history.past
    assert any("Words" in sentence for sentence in said)


def test_what_was_saved_unsettled_is_settled_when_it_is_opened_and_that_is_told(
    book, qtbot, tmp_path
):
    said = []
    book.session.noticed.connect(said.append)
    save(tmp_path / "raw.hframe", RAW, {})
    book.session.replace_all(RAW, {}, tmp_path / "raw.hframe")
    qtbot.waitUntil(lambda: bool(said), timeout=30_000)
    assert "pages were added" in said[0] and "Save it to keep" in said[0]
    assert book.session.history.now == BOOK and not book.session.history.past
    document = hf.Document(RAW)
    assert document.publication == BOOK and document.notices == [said[0]]
    assert hf.Document(BOOK).notices == []


def test_a_title_changed_by_hand_adds_no_page(book):
    book.session.edit("title", lambda p: set_title(p, "Another"))
    assert len(all_pages(book.publication)) == len(all_pages(BOOK))


def test_page_one_in_the_midst_of_a_story_moves_no_word(book):
    flow = Composer().compose(BOOK).flow(STORY)
    book.session.show_page(book.page(9))
    book.do("page one")
    after = book.publication
    assert len(all_pages(after)) == len(all_pages(BOOK))
    there = Composer().compose(after).flow(STORY)
    assert [(s.page_id, p.lines) for s, p in zip(there.stops, there.parts, strict=True)] == [
        (s.page_id, p.lines) for s, p in zip(flow.stops, flow.parts, strict=True)
    ]
    assert section_of(after, book.page(9)).numbering.start == 1


def test_a_section_is_offered_the_heading_that_begins_on_its_page(book, monkeypatch):
    publication = BOOK
    flow = Composer().compose(publication).flow(STORY)
    text = find_story(publication, STORY).text
    second = [n for n, p in enumerate(text) if p.style == "heading"][1]
    page = flow.stops[flow.stop_of(second, 0)].page_id
    book.session.show_page(page)
    seen = []

    def answer(dialog):
        seen.append((dialog.follows.isVisibleTo(dialog), dialog.follows.text()))
        dialog.name.setText("Two")
        QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
        return QDialog.DialogCode.Accepted

    monkeypatch.setattr(SectionDialog, "exec", answer)
    book.do("start section")
    words = text[second].content[0].text
    assert seen[0][0] and words in seen[0][1]
    two = next(s for s in book.publication.sections if s.name == "Two")
    assert two.begins and two.pages[0].id == page
    new = (*text[:1], *text[1:20], *text[1:])
    book.session.edit("words", lambda p: set_story_text(p, STORY, tuple(
        q if q.style != "heading" else p.stories[0].text[0] for q in new[:20]
    ) + find_story(p, STORY).text[1:]))  # fmt: skip
    moved = next(s for s in book.publication.sections if s.name == "Two")
    assert moved.pages[0].id != page
    panel = book.window.properties
    book.session.show_page(moved.pages[0].id)
    book.session.select_section(moved.id)
    book.app.processEvents()
    begins = panel.findChild(PageForm).begins
    assert begins.currentText() == words
    begins.setCurrentIndex(0)
    begins.activated.emit(0)
    begins.take(0)
    assert not next(s for s in book.publication.sections if s.name == "Two").begins


def test_a_list_begins_anew_where_it_is_told_to(book, monkeypatch, tmp_path):
    rows = [Para("List number", (ManuscriptRun(f"entry {n}"),), 1, True) for n in range(4)]
    (tmp_path / "a.docx").write_bytes(written(rows, "docx"))
    monkeypatch.setattr(ManuscriptDialog, "exec", lambda dialog: dialog.ok.click())
    book.session.replace_all(settled(driven_book(chapters=1)), {}, None)
    book.session.show_page(book.page(6))
    book.window.stories.bring_in(tmp_path / "a.docx")
    story = book.publication.stories[0].id
    text = find_story(book.publication, story).text
    third = len(text) - 2

    def labels():
        return list(book.session.composition.labels(story)[-4:])

    assert labels() == ["1.", "2.", "3.", "4."]
    book.desk = book.window.desk
    book.window.stories.show_story(story, third) if hasattr(
        book.window.stories, "show_story"
    ) else 0
    flow = book.session.composition.flow(story)
    book.session.show_page(flow.stops[flow.stop_of(third, 0)].page_id)
    book.window.desk.text.write_at(story, (third, 0))
    book.do("count anew")
    assert labels() == ["1.", "2.", "1.", "2."]
    monkeypatch.setattr(QInputDialog, "getInt", lambda *_: (7, True))
    book.do("count from")
    assert labels() == ["1.", "2.", "7.", "8."]
    book.do("count anew")
    assert labels() == ["1.", "2.", "3.", "4."]


def test_the_report_of_a_long_manuscript_tells_what_came_of_it(book, patient, monkeypatch, qtbot,
                                                               tmp_path):  # fmt: skip
    rows = [Para("Normal", (ManuscriptRun("night sky and sea " * 40),)) for _ in range(60)]
    (tmp_path / "a.docx").write_bytes(written(rows, "docx"))
    monkeypatch.setattr(ManuscriptDialog, "exec", lambda dialog: dialog.ok.click())
    said = []
    book.session.noticed.connect(said.append)
    book.window.stories.bring_in(tmp_path / "a.docx")
    qtbot.waitUntil(lambda: any("paragraphs came" in s for s in said), timeout=20_000)
    assert not any("do not fit" in s for s in said)


def test_a_rule_tells_beforehand_how_many_pages_it_asks_for(book, qtbot):
    plain, plate = add_master(BOOK, "Plate")
    book.session.replace_all(settled(plain), {}, None)
    dialog = book.window.dialogs.rules()
    QTest.mouseClick(dialog.add, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not dialog.work.busy, timeout=20_000)
    known = {m.id: m.name for m in book.session.publication.masters}
    assert known[dialog.rule.masters[0]] != "Plate"  # one that takes text
    for field, words in ((dialog.when, "its number is odd"), (dialog.master, "Plate")):
        at = field.findText(words)
        field.setCurrentIndex(at)
        field.activated.emit(at)
        field.take(at)
    while dialog.rule and dialog.list.currentRow() > 0:
        QTest.mouseClick(dialog.up, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: not dialog.work.busy, timeout=20_000)
    assert "The book would need" in dialog.caught.text() and plate
    QTest.keyClick(dialog, Qt.Key.Key_Escape)
    assert len(all_pages(book.session.publication)) == len(all_pages(BOOK))
