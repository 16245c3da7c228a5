"""Find by the words of designers: how often what was meant comes first, and where fields open."""

from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QDialog, QWidget

from hidden_frame.desktop.fields.fields import Typed
from hidden_frame.desktop.find.entries import entries, places_of
from hidden_frame.desktop.find.places import ITEMS, LEVELS, Fields, field_of
from hidden_frame.edit.items.draw import change_items
from hidden_frame.interact.finds.entry import FindEntry, known
from hidden_frame.interact.finds.rank import Ranking
from hidden_frame.model.items import Line, PictureFrame, Shape, TextFrame
from hidden_frame.model.lookup import all_pages

QUERIES = Path(__file__).parents[1] / "data" / "find-queries.tsv"


def queries() -> list[tuple[str, set[str]]]:
    lines = [x for x in QUERIES.read_text("utf-8").splitlines() if x and not x.startswith("#")]
    return [(typed, set(meant.split("|"))) for typed, meant in (x.split("\t") for x in lines)]


def names(entry: FindEntry) -> set[str]:
    """As the table of queries names it."""
    if entry.kind == "field":
        return {f"{place}/{entry.name}" for place in places_of(entry)}
    return {f"{entry.kind}/{entry.id}"}


@pytest.fixture
def ranking(hands) -> Ranking:
    window = hands.window
    window.commands.refresh()
    fields = Fields(hands.session, window.commands, window.properties)
    return Ranking(entries(window.commands, fields, hands.publication))


def test_what_was_meant_comes_first(ranking):
    asked = queries()
    first, three, missed = 0, 0, []
    for typed, meant in asked:
        found = [names(r.entry) & meant for r in ranking.ask(typed)[:3]]
        first += bool(found and found[0])
        three += any(found)
        if not any(found):
            missed.append(typed)
    assert len(asked) > 500
    assert first / len(asked) >= 0.95 and three / len(asked) >= 0.99, (first, three, missed)


def test_every_command_and_page_of_the_guide_has_words_and_no_other(hands):
    listed = {k.name for k in known() if k.place == "command"}
    now = {c.id for c in hands.window.commands.list if not c.id.startswith("style ")}
    assert listed == now


@settings(max_examples=60, deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_an_exact_name_comes_first_in_any_case(ranking, data):
    entry = data.draw(st.sampled_from(ranking.entries))
    best = ranking.ask(data.draw(st.sampled_from((str.upper, str.lower, str.title)))(entry.name))
    assert best[0].sure and best[0].entry.name.casefold() == entry.name.casefold()


def test_a_command_that_is_only_near_is_never_sure(ranking):
    """Two letters changed places in each name: listed, and not done by Enter."""
    for entry in ranking.entries:
        word = max(entry.name.replace("…", "").split(), key=len)
        if entry.kind != "command" or len(word) < 6:
            continue
        slipped = word[:2] + word[3] + word[2] + word[4:]
        typed = entry.name.replace(word, slipped)
        if slipped != word:
            sure = [r.entry.name for r in ranking.ask(typed) if r.sure]
            assert entry.name not in sure, typed


KINDS = {"text frame": TextFrame, "picture frame": PictureFrame, "shape": Shape, "line": Line,
         "item": Line, "frame or shape": Shape}  # fmt: skip


def select(hands, kind: type) -> None:
    for page in all_pages(hands.publication):
        for item in page.items:
            if type(item) is kind and (kind is not Shape or item.fill):
                hands.session.show_page(page.id)
                face = next(f for f in hands.session.faces() if f.holder_id == page.id)
                hands.session.select_items(face, (item.id,))
                return
    raise AssertionError(kind)


def focused(hands) -> str:
    field = QApplication.focusWidget() or hands.window.properties
    return field.accessibleName() or (field.text() if isinstance(field, QCheckBox) else "")


def test_fields_of_properties_open_there(hands):
    window = hands.window
    fields = Fields(hands.session, window.commands, window.properties)
    window.activateWindow()
    seldom = {"Masters of the section", "Fill tint", "Stroke tint", "Short title", "Begins with",
              "Distance", "On both sides", "Stroke width", "Dash", "Sections start on"}  # fmt: skip
    for row in known():
        place = row.place
        if place in KINDS:
            select(hands, KINDS[place])
        elif place not in LEVELS and place != "master":
            continue
        assert not fields.missing((place,)), row
        fields.open((place,), row.name)
        if row.name not in seldom:  # which stand there only when there is something to say
            assert focused(hands) == row.name, row
        hands.session.show_page(hands.session.page_id)


def test_fields_of_text_open_there_and_say_what_is_missing(hands):
    window = hands.window
    fields = Fields(hands.session, window.commands, window.properties)
    hands.session.show_page(hands.page(1))
    rows = [k for k in known() if k.place == "words"]
    assert fields.missing(("words",)).startswith("Double-click a text")
    assert fields.missing(("picture frame",)) == "Select a picture frame first."
    page = next(p for p in all_pages(hands.publication)
                for i in p.items if isinstance(i, TextFrame) and i.text)  # fmt: skip
    hands.session.show_page(page.id)
    item = next(i for i in page.items if isinstance(i, TextFrame) and i.text)
    face = next(n for n, f in enumerate(hands.session.faces()) if f.holder_id == page.id)
    hands.double(face, item.x + 3, item.y + 6)
    assert hands.session.editing is not None
    for row in rows:
        assert not fields.missing(("words",))
        fields.open(("words",), row.name)
        if row.name != "Short title":
            assert focused(hands) == row.name, row


def test_fields_of_dialogs_stand_in_them(hands, monkeypatch):
    """Each place is a command whose dialog has a field of each of the names."""
    window = hands.window
    fields = Fields(hands.session, window.commands, window.properties)
    opened: list[QDialog] = []
    for way in ("exec", "open", "show"):
        monkeypatch.setattr(QDialog, way, lambda d, *_: opened.append(d) or 0)
    page = all_pages(hands.publication)[3]
    hands.session.show_page(page.id)
    item = next(i for i in page.items if isinstance(i, TextFrame))
    places: dict[str, list[str]] = {}
    for row in known():
        if row.place in window.commands.actions and row.place != "guide":
            places.setdefault(row.place, []).append(row.name)
    assert len(places) > 10
    for place, called in places.items():
        if place in ("repeat", "running head"):
            face = next(f for f in hands.session.faces() if f.holder_id == page.id)
            hands.session.select_items(face, (item.id,))
        if place == "running head":  # said of words
            hands.key(Qt.Key.Key_Return)
        window.commands.refresh()
        assert not fields.missing((place,)), place
        opened.clear()
        window.commands[place].trigger()
        assert opened, place
        for name in called:
            assert field_of(opened[-1], name) is not None, (place, name)
        opened[-1].close()


def test_a_field_of_a_dialog_is_found_and_has_the_keyboard(hands, finder_of, monkeypatch, qtbot):
    seen: list[str] = []

    def waits(dialog: QDialog) -> int:
        dialog.show()
        dialog.activateWindow()
        hands.app.processEvents()
        seen.append(focused(hands))
        dialog.close()
        return 0

    finder = finder_of()
    finder.word.setText("shortest word hyphenated")
    assert finder.list.topLevelItem(0).text(0) == "Shortest word"
    assert finder.where.text() == "Enter opens it there."
    monkeypatch.setattr(QDialog, "exec", waits)
    QTest.keyClick(finder.word, Qt.Key.Key_Return)
    assert seen == ["Shortest word"]


def test_what_stands_in_the_forms_is_known(hands):
    """No field of Properties is missing from the table."""
    known_names = {k.name for k in known() if k.place in {*ITEMS, *LEVELS, "master"}}
    shown: set[str] = set()
    hands.session.show_page(hands.page(2))
    for kind in (None, TextFrame, PictureFrame, Shape, Line):
        if kind is not None:
            select(hands, kind)
        form = hands.window.properties.form
        shown |= {f.accessibleName() for f in form.findChildren(QWidget) if isinstance(f, Typed)}
    assert shown - {""} <= known_names, shown - known_names


def test_a_field_that_is_not_shown_now_says_so(hands):
    """The tint of a fill stands there once there is a fill: opening it is never silent."""
    window = hands.window
    fields = Fields(hands.session, window.commands, window.properties)
    select(hands, Shape)
    item = hands.session.items[0]
    holder = hands.session.holder_id
    hands.session.edit("no fill", lambda p: change_items(p, holder, {item: {"fill": None}}))
    fields.open(("frame or shape",), "Fill tint")
    assert "“Fill tint” isn’t shown at the moment" in hands.notices[-1]
    count = len(hands.notices)
    fields.open(("frame or shape",), "Fill")
    assert len(hands.notices) == count and focused(hands) == "Fill"
