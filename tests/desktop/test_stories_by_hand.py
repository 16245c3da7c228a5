"""Stories in the real window, by mouse and key: flow, link, write, galley, bring in, find."""

from __future__ import annotations

import pytest
from msgspec.structs import replace
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog
from tests.desktop.on_pages import main_frame, text_of, write_on

from hidden_frame.demo.book import long_book
from hidden_frame.demo.driven import driven_book
from hidden_frame.desktop.dialogs.manuscript import ManuscriptDialog
from hidden_frame.desktop.views.desk.stations import marked, out_mark
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.new import new_publication
from hidden_frame.edit.stories import link, pour, set_story_text, start_story
from hidden_frame.edit.text.write import plain
from hidden_frame.interact.hands.copies import words_between
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, find_story, positions
from hidden_frame.model.publication import Setup
from hidden_frame.model.stories import Link
from hidden_frame.model.text import Paragraph, Run
from hidden_frame.model.trims import TRIMS
from hidden_frame.settle.settling import settled

Ctrl = Qt.KeyboardModifier.ControlModifier
Shift = Qt.KeyboardModifier.ShiftModifier
BOOK = settled(long_book(chapters=1))


@pytest.fixture
def book(hands):
    """The first chapter of the long book, page 6 on the desk."""
    hands.session.replace_all(BOOK, {}, None)
    hands.session.show_page(hands.page(6))
    hands.window.desk.camera.fit_to("spread")
    hands.app.processEvents()
    hands.story = hands.publication.stories[0].id
    return hands


def entries(choice):
    return [choice.itemText(n) for n in range(choice.count())]


def pick(choice, words):
    """As one picks an entry of an open list."""
    choice.setCurrentIndex(choice.findText(words))
    choice.activated.emit(choice.currentIndex())


def shown_words(hands, position):
    return " ".join(hands.session.composition.scene(hands.page(position)).text_of())


def test_typing_on_a_page_changes_the_story_and_no_master(book):
    masters = book.publication.masters
    write_on(book)
    assert book.session.editing is not None
    before = plain(text_of(book))
    book.type("Quite new words. ")
    assert "Quite new words." in shown_words(book, 6)
    assert book.publication.masters is masters
    assert len(plain(text_of(book))) == len(before) + len("Quite new words. ")
    book.do("undo")
    assert plain(text_of(book)) == before


def test_the_caret_goes_on_in_the_next_page_and_the_desk_follows(book):
    write_on(book)
    place = book.desk.text.caret
    for _ in range(120):
        book.key(Qt.Key.Key_Down)
    assert book.session.editing.holder_id not in (book.page(6), book.page(5))
    assert book.session.page_id == book.session.editing.holder_id
    assert book.desk.text.caret > place
    for _ in range(120):
        book.key(Qt.Key.Key_Up)
    assert book.session.editing.holder_id == book.page(6)
    assert book.desk.text.caret[0] == place[0]


def test_the_run_follows_the_caret_while_one_writes(book, qtbot):
    write_on(book)
    run = book.window.run
    book.app.clipboard().setText("A line of a long list of lamps.\n" * 600)
    book.key(Qt.Key.Key_V, Ctrl)
    last = book.session.page_id
    assert positions(book.publication)[last] > 20
    seen = run.viewport().rect()
    qtbot.waitUntil(lambda: seen.contains(run.rect_of(last).center().toPoint()), timeout=3000)


def test_a_selection_runs_over_two_pages_and_is_deleted_as_one(book):
    write_on(book)
    book.desk.text.anchor = book.desk.text.caret
    for _ in range(60):
        book.key(Qt.Key.Key_Down, Shift)
    start, end = book.desk.text.selection
    flow = book.session.composition.flow(book.story)
    assert flow.stop_of(*start) != flow.stop_of(*end)
    marks = [
        book.desk.text.marks(shown.face.holder_id, placed)[1]
        for shown in book.desk.sheets() for placed in shown.scene.placed
    ]  # fmt: skip
    assert any(marks)
    words = len(plain(text_of(book)))
    book.key(Qt.Key.Key_Backspace)
    assert len(plain(text_of(book))) < words and book.desk.text.caret == start


def test_a_long_text_typed_at_the_end_adds_a_page_in_the_same_step(book):
    count = len(all_pages(book.publication))
    book.window.stories.go_to(book.story, end=True)
    book.desk.text.insert("Many words of the end. " * 400, merge="")
    assert len(all_pages(book.publication)) > count
    assert find_page(book.publication, book.page(count + 1)).made
    book.do("undo")
    assert len(all_pages(book.publication)) == count


def test_a_smaller_main_frame_on_the_master_moves_all_pages(book):
    text = next(m for m in book.publication.masters if m.name == "Text page")
    count = len(all_pages(book.publication))
    book.session.show_master(text.id)
    face = book.session.faces()[1]
    item = next(i for i in text.items if getattr(i, "main", 0))
    book.session.select_items(face, (item.id,))
    book.app.processEvents()
    book.enter("Height", "60mm")
    assert len(all_pages(book.publication)) > 2 * count - 6
    assert book.session.composition.flow(book.story).rest is None


@pytest.fixture
def frames(hands):
    """Two facing pages with three empty text frames, the first of which holds words."""
    publication = new_publication("Linked", Setup(trim=TRIMS["A5"]), 3)
    made = []
    for n, y in ((1, 60), (1, 300), (2, 60)):
        words = (Paragraph("body", (Run("Bright stars of the north. " * 30),)),) if not made else ()
        frame = TextFrame(id="", x=60, y=y, width=220, height=120, text=words)
        page = all_pages(publication)[n].id
        publication, item = add_item(publication, page, frame)
        made.append(Link(page, item))
    hands.session.replace_all(publication, {}, None)
    hands.session.show_page(hands.page(2))
    hands.window.desk.camera.fit_to("spread")
    hands.app.processEvents()
    hands.frames = made
    return hands


def mark_of(hands, item_id) -> QPoint:
    view = hands.desk.camera.view
    for placed, face, _ in marked(hands.session, hands.desk.sheets()):
        if placed.item_id == item_id:
            return out_mark(placed, face, view).center().toPoint()
    raise AssertionError("no mark is shown")


def press(hands, point):
    QTest.mouseClick(hands.desk, Qt.MouseButton.LeftButton, pos=point)
    hands.app.processEvents()


def test_frames_are_linked_by_the_mark_and_a_click(frames):
    one, two, three = frames.frames
    frames.click(0, 100, 100)
    press(frames, mark_of(frames, one.item))
    assert (
        frames.session.linking == (one.page, one.item) and "Click the frame" in frames.notices[-1]
    )
    frames.click(1, 100, 100)
    (story,) = frames.publication.stories
    assert story.path == (one, three)
    assert plain(story.text).startswith("Bright stars")
    frames.click(0, 100, 100)
    press(frames, mark_of(frames, one.item))
    frames.click(0, 100, 320)
    (story,) = frames.publication.stories
    assert story.path == (one, two, three)  # in the middle, behind the one that was begun with
    shown = [len(p.text.lines) for p in frames.session.composition.flow(story.id).parts]
    assert all(shown)
    frames.do("unlink frame")
    assert frames.publication.stories[0].path == (one, three)


def test_a_frame_is_drawn_to_go_on_and_escape_gives_up(frames):
    one = frames.frames[0]
    frames.click(0, 100, 100)
    press(frames, mark_of(frames, one.item))
    frames.key(Qt.Key.Key_Escape)
    assert frames.session.linking is None and frames.publication.stories == ()
    frames.click(0, 100, 100)
    press(frames, mark_of(frames, one.item))
    frames.drag(1, (80, 300), (300, 480))
    (story,) = frames.publication.stories
    assert len(story.path) == 2 and story.path[1].page == frames.page(3)
    assert frames.session.linking is None and frames.session.tool == "select"


def test_a_ring_is_refused_with_a_sentence(frames):
    one, two, _ = frames.frames
    frames.click(0, 100, 100)
    press(frames, mark_of(frames, one.item))
    frames.click(0, 100, 320)
    before = frames.publication
    frames.click(0, 100, 320)
    press(frames, mark_of(frames, two.item))
    frames.click(0, 100, 100)
    assert frames.publication is before and "come back to itself" in frames.notices[-1]


def test_the_path_is_shown_on_demand(frames):
    one = frames.frames[0]
    frames.click(0, 100, 100)
    press(frames, mark_of(frames, one.item))
    frames.click(1, 100, 100)
    frames.session.select_items(None, ())
    plain_desk = frames.desk.grab().toImage()
    frames.do("paths")
    assert frames.session.paths and frames.desk.grab().toImage() != plain_desk
    frames.do("paths")
    assert frames.desk.grab().toImage() == plain_desk


def test_the_galley_shows_the_story_and_shares_its_caret(book):
    write_on(book)
    book.do("galley")
    galley = book.window.galley.text
    assert galley.toPlainText() == plain(text_of(book))
    assert galley.place_of(galley.textCursor().position()) == book.desk.text.caret
    galley.setFocus()
    QTest.keyClicks(galley, "Typed there. ")
    assert "Typed there." in plain(text_of(book)) and "Typed there." in shown_words(book, 6)
    QTest.keyClick(galley, Qt.Key.Key_Return)
    assert galley.toPlainText() == plain(text_of(book))
    book.desk.setFocus()
    book.type("And here. ")
    assert galley.toPlainText() == plain(text_of(book))
    QTest.keyClick(galley, Qt.Key.Key_End, Qt.KeyboardModifier.ControlModifier)
    assert book.desk.text.caret[0] == len(text_of(book)) - 1
    assert book.session.editing.holder_id == book.page(len(all_pages(book.publication)))
    book.do("undo")
    assert galley.toPlainText() == plain(text_of(book))
    book.do("galley")
    assert not book.window.galley.isVisible()


def test_the_shelf_tells_how_a_story_stands_and_lets_it_grow(book):
    book.window.show_shelf("Stories")
    panel = book.window.story_list
    panel.refresh()
    assert "Fits, " in panel.told.text() and panel.grows.isChecked()
    panel.grows.click()
    text = text_of(book)
    book.session.edit("more", lambda p: replace(
        p, stories=(replace(p.stories[0], text=text * 2),)))  # fmt: skip
    panel.refresh()
    assert "do not fit" in panel.told.text()
    titles = [panel.helps.itemAt(n).widget().text() for n in range(panel.helps.count())]
    assert titles[0] == "Let its section grow"
    found = [f for f in all_findings(book) if f.kind == "story does not fit"]
    assert len(found) == 1 and "The Lamplighters" in found[0].sentence
    panel.helps.itemAt(0).widget().click()
    panel.refresh()
    assert "Fits, " in panel.told.text()


def all_findings(hands):
    hands.window.checks.watch.finish()
    return hands.window.checks.findings_now(float("inf")).found


def test_a_manuscript_is_brought_in_with_its_styles_chosen_once(book, tmp_path, monkeypatch):
    source = tmp_path / "more.md"
    source.write_text("# A chapter\n\nSome *slanted* words.\n\n> quoted\n")
    asked = []

    def accept(dialog):
        asked.append({n: c.value() for n, c in dialog.choices.items()})
        dialog.choices["Quote"].show_choice([("Byline", "byline")], "byline")
        dialog.ok.click()

    monkeypatch.setattr(ManuscriptDialog, "exec", accept)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *_: (str(source), ""))
    book.do("bring in")
    assert asked[-1] == {"Heading 1": "", "Normal": "body", "Quote": ""}
    assert [p.style for p in text_of(book)[-2:]] == ["body", "byline"]
    assert "3 paragraphs came." in book.notices[-1]
    book.do("bring in")
    assert asked[-1]["Quote"] == "byline" and asked[-1]["Heading 1"] != ""


def test_a_manuscript_dropped_on_a_page_goes_into_its_section(book, tmp_path, monkeypatch):
    source = tmp_path / "more.html"
    source.write_text("<p>Dropped words</p>")
    monkeypatch.setattr(ManuscriptDialog, "exec", lambda dialog: dialog.ok.click())
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(source))])
    at = QPointF(book.at(1, 100, 100))
    event = QDropEvent(at, Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton,
                       Qt.KeyboardModifier.NoModifier)  # fmt: skip
    book.desk.dropEvent(event)
    assert plain(text_of(book)).endswith("Dropped words")


def test_a_bad_manuscript_is_told_and_changes_nothing(book, tmp_path):
    bad = tmp_path / "bad.docx"
    bad.write_bytes(b"PK nothing")
    before = book.publication
    book.window.stories.bring_in(bad)
    assert "damaged" in book.notices[-1] and book.publication is before


def test_a_story_is_written_out(book, tmp_path, monkeypatch):
    out = tmp_path / "out"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), "Plain text (*.txt)"))
    book.window.stories.write_out(book.story)
    assert (tmp_path / "out.txt").read_text().strip() == plain(text_of(book)).strip()


def test_find_and_replace_lists_hits_with_their_folios(book):
    write_on(book)
    dialog = book.window.dialogs.find_text()
    dialog.words.setText("lamplighter")
    dialog.look()
    count = plain(text_of(book)).lower().count("lamplighter")
    everywhere = len(dialog.found)
    assert everywhere >= count > 3 and f"{everywhere} hits" in dialog.told.text()
    pick(dialog.scope, "this story")
    dialog.look()
    assert len(dialog.found) == count
    assert dialog.list.topLevelItem(0).text(0).isdecimal()
    dialog.go_on()
    start, end = book.desk.text.selection
    assert plain(text_of(book), start, end).lower() == "lamplighter"
    dialog.by.setText("beacon keeper")
    dialog.replace()
    assert plain(text_of(book)).lower().count("beacon keeper") == 1
    dialog.all.click()
    assert "lamplighter" not in plain(text_of(book)).lower()
    assert f"{count - 1} replaced" in dialog.told.text()
    book.do("undo")
    assert plain(text_of(book)).lower().count("lamplighter") == count - 1
    dialog.regular.setChecked(True)
    dialog.words.setText("(unclosed")
    dialog.look()
    assert "not a regular expression" in dialog.told.text()
    dialog.close()


def test_the_start_window_opens_the_long_book(dressed, qapp):
    from hidden_frame.desktop.shell.start.window import StartWindow

    opened = []
    start = StartWindow(lambda publication, *_: opened.append(publication))
    row = start.recent.item(start.recent.count() - 1)
    assert row.text() == "A long book"
    start._open_recent(row)
    assert len(all_pages(opened[0])) > 150 and opened[0].stories
    start.close()


def test_words_copied_keep_their_styles_and_looks(book):
    write_on(book)
    styles = {p.style for p in text_of(book)}
    start, end = (0, 4), (2, 9)
    book.desk.text.anchor, book.desk.text.caret = start, end
    copied = plain(text_of(book), start, end)
    book.key(Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    data = book.app.clipboard().mimeData()
    assert data.text() == copied and data.hasHtml() and "Chapter title" in data.html()
    book.window.stories.go_to(book.story, end=True)
    before = len(text_of(book))
    book.key(Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert plain(text_of(book)).endswith(copied)
    assert len(text_of(book)) == before + 2
    assert [p.style for p in text_of(book)[-2:]] == [p.style for p in text_of(book)[1:3]]
    assert {p.style for p in text_of(book)} == styles
    book.do("undo")
    assert len(text_of(book)) == before


def test_words_from_a_web_page_keep_their_emphasis(book):
    write_on(book)
    data = QMimeData()
    data.setHtml("<p>plain <em>slanted</em></p><p>second</p><script>x()</script>")
    data.setText("plain slanted\nsecond")
    book.app.clipboard().setMimeData(data)
    count = len(text_of(book))
    book.key(Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert len(text_of(book)) == count + 2  # what stood behind the caret stays apart
    slanted = [c for p in text_of(book) for c in p.content if c.text == "slanted"]
    assert slanted and slanted[0].look.italic


def test_pictures_of_a_manuscript_wait_in_the_tray_and_are_placed_where_it_speaks_of_them(
    book, tmp_path, monkeypatch
):
    import docx
    from PIL import Image

    shot = tmp_path / "shot.png"
    Image.new("RGB", (300, 200), "teal").save(shot)
    document = docx.Document()
    for n in range(30):
        document.add_paragraph(f"Paragraph {n} of many words. " * 12)
        if n == 20:
            document.add_picture(str(shot))
    document.save(tmp_path / "a.docx")

    def into_the_tray(dialog):
        assert dialog.pictures.currentText() == "in the text, where they were"
        pick(dialog.pictures, "in the story’s tray, to be placed by hand")
        dialog.ok.click()

    monkeypatch.setattr(ManuscriptDialog, "exec", into_the_tray)
    book.window.stories.bring_in(tmp_path / "a.docx")
    assert "1 picture came. Pictures wait" in book.notices[-1]
    story = find_story(book.publication, book.story)
    (one,) = story.waiting
    assert one.picture in book.session.blobs
    assert plain(story.text[one.paragraph - 1 : one.paragraph]).startswith("Paragraph 20")
    write_on(book, position=6)
    book.key(Qt.Key.Key_Return)
    assert find_story(book.publication, book.story).waiting[0].paragraph == one.paragraph + 1
    flow = book.session.composition.flow(book.story)
    page = flow.stops[flow.stop_of(one.paragraph + 1, 0)].page_id
    book.window.show_shelf("Stories")
    book.window.story_list.refresh()
    assert book.window.story_list.tray.text() == "Place the last picture"
    book.window.story_list.tray.click()
    assert find_story(book.publication, book.story).waiting == ()
    frame = find_page(book.publication, page).items[0]
    assert frame.picture == one.picture and book.session.items == (frame.id,)
    assert book.session.composition.flow(book.story).rest is None


def test_the_main_frame_is_chosen_in_properties(hands):
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 2)
    master = publication.masters[0].id
    publication, item = add_item(
        publication, master, TextFrame(id="", x=50, y=50, width=300, height=400)
    )
    hands.session.replace_all(publication, {}, None)
    hands.session.show_master(master)
    hands.session.select_items(hands.session.faces()[1], (item,))
    hands.app.processEvents()
    choice = hands.window.properties.form.fields["main"]
    choice.setCurrentIndex(1)
    choice.activated.emit(1)
    assert hands.publication.masters[0].items[0].main == 1


def test_find_looks_only_in_the_selected_words(book):
    write_on(book)
    text = text_of(book)
    first = next(n for n, p in enumerate(text) if "lamplighter" in plain((p,)))
    end = (first + 6, 0)
    book.desk.text.anchor, book.desk.text.caret = (first, 0), end
    inside = plain(text, (first, 0), end).count("lamplighter")
    all_of_it = plain(text).count("lamplighter")
    assert 0 < inside < all_of_it
    dialog = book.window.dialogs.find_text()
    assert dialog.scope.currentText() == "the selected words"
    dialog.case.setChecked(True)
    dialog.words.setText("lamplighter")
    dialog.by.setText("keeper of the lamps, and of the dark")
    dialog.look()
    assert len(dialog.found) == inside
    dialog.replace()
    assert len(dialog.found) == inside - 1
    dialog.all.click()
    assert plain(text_of(book)).count("lamplighter") == all_of_it - inside
    assert plain(text_of(book)).count("keeper of the lamps, and of the dark") == inside
    dialog.close()


def test_the_caret_goes_by_paragraph_and_by_story(book):
    Control = Qt.KeyboardModifier.ControlModifier
    write_on(book, y=160)
    paragraph = book.desk.text.caret[0]
    book.key(Qt.Key.Key_Up, Control)
    assert book.desk.text.caret == (paragraph, 0)
    book.key(Qt.Key.Key_Up, Control)
    assert book.desk.text.caret == (paragraph - 1, 0)
    for _ in range(12):
        book.key(Qt.Key.Key_Down, Control | Shift)
    assert book.desk.text.caret == (paragraph + 11, 0)
    assert book.desk.text.anchor == (paragraph - 1, 0)
    assert book.session.page_id == book.session.editing.holder_id != book.page(6)
    book.key(Qt.Key.Key_End, Control)
    assert book.desk.text.caret[0] == len(text_of(book)) - 1
    book.key(Qt.Key.Key_Home, Control)
    assert book.desk.text.caret == (0, 0)


def test_the_encoding_of_a_plain_text_is_offered_and_chosen(book, tmp_path, monkeypatch):
    words = "Зимний свет над гаванью; лодки спят, и никто не говорит. " * 20
    path = tmp_path / "letter.txt"
    path.write_bytes(words.encode("koi8_r"))
    seen = []

    def use(dialog):
        seen.append((dialog.encoding.currentText(), dialog.beginning.text()))
        pick(dialog.encoding, "Unicode (UTF-8)")
        assert "text in utf-8" in dialog.form.problem.text()
        pick(dialog.encoding, "Western (cp1252)")
        assert "Çèìíèé" not in dialog.beginning.text() != seen[0][1]
        pick(dialog.encoding, next(t for t in entries(dialog.encoding) if "KOI8" in t))
        seen.append(dialog.beginning.text())
        dialog.ok.click()

    monkeypatch.setattr(ManuscriptDialog, "exec", use)
    book.window.stories.bring_in(path)
    assert "the likely one" in seen[0][0]
    assert "Зимний свет над гаванью" in seen[1]
    assert plain(text_of(book)).rstrip().endswith("никто не говорит.")


def test_reading_a_long_manuscript_can_be_cancelled(book, tmp_path, monkeypatch):
    from threading import Event

    from hidden_frame.desktop.dialogs import manuscript

    go = Event()
    monkeypatch.setattr(manuscript, "read", lambda *_: go.wait(20))
    monkeypatch.setattr(manuscript, "_PATIENCE", 0.01)
    monkeypatch.setattr(manuscript.QProgressDialog, "show", lambda window: window.cancel())
    before = book.publication
    book.window.stories.bring_in(tmp_path / "a.docx")
    assert book.publication is before and "was not imported" in book.notices[-1]
    go.set()


def answer_at_the_pointer(hands, words):
    menu = hands.window.stories.asking
    assert menu.isVisible()
    action = next(a for a in menu.actions() if a.text() == words)
    at = menu.actionGeometry(action).center()
    QTest.mouseClick(menu, Qt.MouseButton.LeftButton, pos=at)
    hands.app.processEvents()


@pytest.fixture
def linked(hands):
    """Two linked frames on one page, the first chosen."""
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 2)
    page = all_pages(publication)[0].id
    words = tuple(
        Paragraph("body", (Run(f"Line {n} of a story that flows. " * 4),)) for n in range(6)
    )
    frame = TextFrame(id="", x=40, y=50, width=150, height=90, text=words)
    publication, first = add_item(publication, page, frame)
    publication, story = start_story(publication, page, first)
    publication, second = add_item(publication, page, replace(frame, x=220, text=()))
    publication = link(publication, story, page, second, Link(page, first))
    hands.session.replace_all(publication, {}, None)
    hands.session.select_items(hands.session.faces()[-1], (first,))
    hands.app.processEvents()
    hands.story, hands.first, hands.second = story, first, second
    return hands


@pytest.mark.parametrize("way", ["duplicate", "drag", "paste"])
@pytest.mark.parametrize(
    "answer", ["The same words again", "An empty frame, linked after the first", "An empty frame"]
)
def test_a_copy_of_a_linked_frame_starts_no_story_by_accident(linked, way, answer):
    page = linked.session.holder_id
    shown = linked.session.composition.scene(page).text_of()
    before, path = plain(text_of(linked)), find_story(linked.publication, linked.story).path
    if way == "duplicate":
        linked.do("duplicate")
    elif way == "drag":
        linked.drag(-1, (100, 90), (110, 300), Qt.KeyboardModifier.AltModifier)
    else:
        linked.do("copy")
        linked.do("paste")
    answer_at_the_pointer(linked, answer)
    items = find_page(linked.publication, page).items
    (made,) = [i for i in items if i.id not in (linked.first, linked.second)]
    story = find_story(linked.publication, linked.story)
    assert plain(story.text) == before and len(linked.publication.stories) == 1
    if answer == "The same words again":
        assert plain(made.text).startswith("Line 0") and made.text != story.text
        assert linked.session.composition.told(page, made.id) is None
        copies = linked.session.composition.scene(page).text_of()
        count = linked.session.composition.flow(linked.story).parts[0].lines
        # The same words; their lines may end elsewhere, since they are a paragraph's end no more.
        assert sorted(" ".join(copies).split()) == sorted(
            " ".join([*shown, *shown[:count]]).split()
        )
    elif answer == "An empty frame":
        assert made.text == () and story.path == path
    else:
        assert story.path == (path[0], Link(page, made.id), path[1])


def test_a_copied_main_frame_is_none_until_it_is_said(book):
    write_on(book)
    book.session.edit_text(None)
    book.session.select_items(book.session.faces()[0], (main_frame(book, 6).id,))
    text = text_of(book)
    book.do("copy")
    book.do("paste")
    (made,) = find_page(book.publication, book.page(6)).items
    assert made.main == 0
    answer_at_the_pointer(book, "The same words again")
    (made,) = find_page(book.publication, book.page(6)).items
    flow = book.session.composition.flow(book.story)
    at = flow.index[book.page(6), main_frame(book, 6).id]
    assert made.text == words_between(text, flow, at, at)


def test_words_of_a_story_come_along_to_another_publication(linked):
    linked.do("copy")
    linked.session.replace_all(new_publication("Other", Setup(trim=TRIMS["A5"]), 1), {}, None)
    linked.app.processEvents()
    linked.do("paste")
    (made,) = all_pages(linked.publication)[0].items
    assert plain(made.text).startswith("Line 0 of a story") and not linked.publication.stories


@pytest.mark.parametrize("drop", [True, False])
def test_a_drag_across_empty_pages_in_the_run_fills_them(linked, drop):
    from hidden_frame.edit.pages.order import add_pages

    session = linked.session
    session.edit("more", lambda p: add_pages(p, p.sections[0].id, 2, 8)[0])
    own = TextFrame(id="", x=40, y=50, width=150, height=90)
    session.edit("own", lambda p: add_item(p, linked.page(5), own)[0])
    session.select_items(session.faces()[-1], (linked.second,))
    linked.do("link frame")
    run = linked.window.run
    linked.app.processEvents()
    before = linked.publication
    a, b = (run.rect_of(linked.page(n)).center().toPoint() for n in (3, 7))
    linked.pull(run.viewport(), a, b, drop=False)
    assert run.hand.words.startswith("Fill 4 pages with the text\n1 page is passed over")
    if not drop:
        QTest.keyClick(run, Qt.Key.Key_Escape)
        assert not run.hand.words and linked.publication is before
        return
    QTest.mouseRelease(run.viewport(), Qt.MouseButton.LeftButton, pos=b)
    linked.app.processEvents()
    story = find_story(linked.publication, linked.story)
    assert [s.page for s in story.path[2:]] == [linked.page(n) for n in (3, 4, 6, 7)]
    flow = session.composition.flow(linked.story)
    assert flow.rest is None and len(flow.stops) == 6
    (made,) = find_page(linked.publication, linked.page(3)).items
    margins = linked.publication.setup.margins
    assert made.y == margins.top and session.linking is None
    linked.do("undo")
    assert linked.publication is before


def test_a_click_in_the_run_while_linking_only_turns_the_page(linked):
    linked.do("link frame")
    run = linked.window.run
    linked.app.processEvents()
    QTest.mouseClick(
        run.viewport(),
        Qt.MouseButton.LeftButton,
        pos=run.rect_of(linked.page(2)).center().toPoint(),
    )
    assert linked.session.page_id == linked.page(2) and linked.session.linking is not None
    assert len(linked.publication.sections[0].pages[1].items) == 0


@pytest.mark.parametrize(
    ("answer", "stories"),
    [
        ("Bring the whole story", 1),
        ("Bring only the words on these pages", 1),
        ("Leave their frames empty", 0),
    ],
)
def test_pages_copied_to_another_publication_ask_what_comes_along(book, answer, stories):
    whole, clipboard = plain(text_of(book)), book.window.page_clipboard
    shown = [t for n in (6, 7) for t in book.session.composition.scene(book.page(n)).text_of()]
    book.session.select_pages((book.page(6), book.page(7)))
    assert clipboard.copy()
    book.session.replace_all(new_publication("Other", Setup(trim=TRIMS["A5"]), 2), {}, None)
    book.app.processEvents()
    before = book.publication
    clipboard.paste()
    menu = clipboard.asking
    assert book.publication is before and menu.isVisible()
    assert "flows through these pages" in menu.actions()[0].text()
    action = next(a for a in menu.actions() if a.text() == answer)
    QTest.mouseClick(menu, Qt.MouseButton.LeftButton, pos=menu.actionGeometry(action).center())
    book.app.processEvents()
    assert len(all_pages(book.publication)) == 4 and len(book.publication.stories) == stories
    pasted = [t for p in book.session.pages for t in book.session.composition.scene(p).text_of()]
    if answer == "Bring the whole story":
        assert plain(book.publication.stories[0].text) == whole
    elif stories:
        assert set(map(str.strip, shown)) & set(map(str.strip, pasted))
        assert 0 < len(plain(book.publication.stories[0].text)) < len(whole)
    book.do("undo")
    assert book.publication is before


def test_pages_pasted_where_they_come_from_ask_nothing(book):
    count = len(book.publication.stories)
    book.session.select_pages((book.page(6),))
    assert book.window.page_clipboard.copy()
    before = len(all_pages(book.publication))
    book.window.page_clipboard.paste()
    assert len(all_pages(book.publication)) >= before and len(book.publication.stories) == count


def test_the_style_in_properties_is_that_of_the_words_that_a_frame_shows(linked):
    choice = linked.window.properties.form.fields["text"]
    assert choice.currentText() == "Body"
    shown = len(linked.session.composition.flow(linked.story).parts[0].looked_at)
    pick(choice, "Heading")
    styles = [p.style for p in text_of(linked)]
    heading = next(s.id for s in linked.publication.paragraph_styles if s.name == "Heading")
    assert styles[0] == heading and "body" in styles and styles.count(heading) <= shown
    frame = find_page(linked.publication, linked.session.holder_id).items[0]
    assert frame.text == ()


def test_an_empty_copy_is_written_in_as_any_frame(linked):
    linked.do("duplicate")
    answer_at_the_pointer(linked, "An empty frame")
    made = linked.session.items[0]
    choice = linked.window.properties.form.fields["text"]
    assert choice.currentText() == "Body"
    pick(choice, "Heading")
    linked.double(-1, 120, 147)
    linked.type("Quite new")
    items = find_page(linked.publication, linked.session.holder_id).items
    (text,) = [i.text for i in items if i.id == made]
    assert plain(text) == "Quite new" and text[0].style != "body"


def test_no_offer_for_a_story_is_cut_on_the_shelf(linked):
    from hidden_frame.interact.words.storied import Offer, offers

    for words in (400, 60):  # much too long, and a little
        text = (Paragraph("body", (Run("some words " * words),)),)
        linked.session.edit("text", lambda p, t=text: set_story_text(p, linked.story, t))
        linked.window.show_shelf("Stories")
        linked.window.story_list.refresh()
        linked.app.processEvents()
        made = offers(linked.session.composition, linked.story)
        helps = linked.window.story_list.helps
        buttons = [helps.itemAt(n).widget() for n in range(helps.count())]
        assert [b.text() for b in buttons] == [o.title for o in made if isinstance(o, Offer)]
        for button in buttons:
            assert button.fontMetrics().horizontalAdvance(button.text()) < button.width() - 16
            assert button.toolTip().endswith(".")


@pytest.mark.parametrize("wanted", [True, False])
def test_a_section_without_main_frame_is_offered_one(linked, tmp_path, monkeypatch, wanted):
    path = tmp_path / "tale.txt"
    path.write_text("A tale of many words, told slowly. " * 400)
    linked.session.show_page(linked.page(2))

    def use(dialog):
        assert dialog.main.isVisibleTo(dialog) and "on Base" in dialog.main.text()
        dialog.main.setChecked(wanted)
        dialog.ok.click()

    monkeypatch.setattr(ManuscriptDialog, "exec", use)
    linked.window.stories.bring_in(path)
    story = linked.publication.stories[-1]
    composition = linked.session.composition
    assert (composition.flow(story.id).rest is None) == wanted
    if not wanted:
        assert "do not fit: the masters of its section have no main frame" in linked.notices[-1]
        return
    (frame,) = linked.publication.masters[0].items
    margins = linked.publication.setup.margins
    assert frame.main == 1 and frame.y == margins.top
    assert linked.session.page_id == composition.flow(story.id).stops[0].page_id
    assert "A tale of many words" in " ".join(composition.scene(linked.page(2)).text_of())
    monkeypatch.setattr(ManuscriptDialog, "exec", lambda d: seen.append(d.main.isVisibleTo(d)))
    seen = []
    linked.window.stories.bring_in(path)
    assert seen == [False]


@pytest.mark.parametrize("way", ["mark", "key", "draw"])
def test_frames_are_linked_on_a_master_by_hand(hands, way):
    publication = new_publication("New", Setup(trim=TRIMS["A5"]), 2)
    master = publication.masters[0].id
    frame = TextFrame(id="", x=50, y=50, width=300, height=90)
    publication, first = add_item(publication, master, frame)
    if way != "draw":
        publication, _ = add_item(publication, master, replace(frame, y=200))
    hands.session.replace_all(publication, {}, None)
    hands.session.show_master(master)
    hands.desk.camera.fit_to("spread")
    hands.session.select_items(hands.session.faces()[1], (first,))
    hands.app.processEvents()
    if way == "key":
        hands.do("link frame")
    else:
        ((placed, face, _),) = marked(hands.session, hands.desk.sheets())
        at = out_mark(placed, face, hands.desk.camera.view).center().toPoint()
        QTest.mouseClick(hands.desk, Qt.MouseButton.LeftButton, pos=at)
    assert hands.session.linking == (master, first)
    if way == "draw":
        hands.drag(1, (60, 200), (300, 300))
    else:
        hands.click(1, 100, 240)
    items = hands.publication.masters[0].items
    assert [i.main for i in items] == [1, 2] and hands.session.linking is None
    shows = hands.window.properties.form.fields["main"]
    assert shows.currentText() == "the story, second frame"
    text = (Paragraph("body", (Run("some words " * 300),)),)
    hands.session.edit("pour", lambda p: pour(p, p.sections[0].id, text)[0])
    flow = hands.session.composition.flow(hands.publication.stories[0].id)
    assert [s.room.item_id for s in flow.stops[:2]] == [i.id for i in items]
    assert flow.parts[1].lines > 0


def test_the_galley_stands_instead_of_the_desk_and_gives_it_back(book):
    write_on(book)
    book.do("galley")
    galley = book.window.galley
    beside = galley.text.viewport().width()
    QTest.mouseClick(galley.wide, Qt.MouseButton.LeftButton)
    book.app.processEvents()
    assert not book.desk.isVisible() and galley.text.viewport().width() > beside
    assert galley.text.viewport().width() <= 660
    galley.text.setFocus()
    QTest.keyClicks(galley.text, "Typed wide. ")
    assert "Typed wide." in plain(text_of(book))
    assert "Typed wide." in shown_words(book, 6)
    QTest.mouseClick(galley.close_button, Qt.MouseButton.LeftButton)
    book.app.processEvents()
    assert book.desk.isVisible() and not galley.isVisible() and not galley.wide.isChecked()


def test_pictures_of_a_manuscript_stand_where_they_stood_and_go_out_again(
    book, tmp_path, monkeypatch
):
    import docx
    from PIL import Image

    shot, out = tmp_path / "shot.png", tmp_path / "out.docx"
    Image.new("RGB", (300, 200), "teal").save(shot)
    document = docx.Document()
    document.add_paragraph("before")
    document.add_picture(str(shot), width=docx.shared.Pt(90))
    document.add_paragraph("behind")
    document.save(tmp_path / "a.docx")
    monkeypatch.setattr(ManuscriptDialog, "exec", lambda dialog: dialog.ok.click())
    book.window.stories.bring_in(tmp_path / "a.docx")
    story = find_story(book.publication, book.story)
    assert not story.waiting and "Pictures wait" not in book.notices[-1]
    (anchor,) = story.text[-2].content
    assert (anchor.width, anchor.height) == (90.0, 60.0)
    assert book.session.blobs[anchor.picture] == shot.read_bytes()
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(out), "(*.docx)"))
    assert book.window.commands.actions["write out"].isEnabled()
    book.do("write out")
    (picture,) = docx.Document(out).inline_shapes
    assert picture.width.pt == 90 and picture.height.pt == 60


def test_one_goes_on_writing_where_a_rule_takes_the_frame_away(hands):
    """A heading cut on its opener: the page follows another master, in whose frame one goes on."""
    publication = settled(driven_book(chapters=3))
    hands.open_story(publication)
    writing = hands.desk.text
    text = text_of(hands)
    headings = [n for n, p in enumerate(text) if p.style == "heading"]
    second = headings[1]
    assert writing.write_at(hands.story, (second, 0))
    opener = hands.session.editing
    hands.desk.setFocus()
    writing.anchor, writing.caret = (second, 0), (second + 1, 0)
    QTest.keyClick(hands.desk, Qt.Key.Key_Delete)
    assert len(text_of(hands)) == len(text) - 1
    assert hands.session.editing is not None and hands.session.editing != opener
    assert writing.caret == (second, 0)
    hands.type("Here")
    assert plain((text_of(hands)[second],)).startswith("Here")
    hands.do("undo")
    hands.do("undo")
    assert text_of(hands) == text and hands.session.editing == opener
    assert writing.selection == ((second, 0), (second + 1, 0))
