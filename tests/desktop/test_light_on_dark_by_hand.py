"""Light on dark, by hand: what a frame's words wear on one page, and by itself."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from hidden_frame.desktop.dialogs.styles.paragraph import StyleDialog
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.masters.overrides import override
from hidden_frame.model.items import Shape, TextFrame
from hidden_frame.model.lookup import find_page, master_item, paragraph_style
from hidden_frame.model.paint import Fill
from hidden_frame.model.styles import own
from hidden_frame.model.text import Marker, Paragraph, Run


def a_folio(hands, position: int = 9) -> str:
    """A page on the desk whose master's folio is selected."""
    session = hands.session
    session.show_page(hands.page(position))
    scene = session.composition.scene(session.page_id)
    folio = next(
        p for p in scene.placed
        if p.carrier and p.drawing.text is not None
        and session.composition.facts[session.page_id].folio
        in [line.text for line in p.drawing.text.text.lines]
    )  # fmt: skip
    session.select_items(
        next(f for f in session.faces() if f.holder_id == session.page_id), (folio.item_id,)
    )
    hands.app.processEvents()
    return folio.item_id


def inks(hands, item: str) -> set:
    scene = hands.session.composition.scene(hands.session.page_id)
    block = next(p for p in scene.painted if p.item_id == item).drawing.text
    return {run.span.ink for line in block.text.lines for run in line.runs}


def choose(field, words: str) -> None:
    row = field.findText(words)
    assert row >= 0, [field.itemText(n) for n in range(field.count())]
    field.setCurrentIndex(row)
    field.take(row)


def colour(hands, name: str):
    return next(c for c in hands.publication.colours if c.name == name)


def test_a_colour_on_one_page_takes_two_clicks_and_the_words_go_on_following(hands, qtbot):
    item = a_folio(hands)
    hands.settle(qtbot)
    form = hands.window.properties.form
    before = hands.publication
    field = form.fields["text_colour"]
    assert field.isEnabled() and not form.fields["x"].isEnabled()
    choose(field, "Ink")
    page = find_page(hands.publication, hands.session.page_id)
    (made,) = [o for o in page.overrides if o.item == item]
    assert made.text_colour == colour(hands, "Ink").id and not isinstance(made.text, tuple)
    assert inks(hands, item) == {colour(hands, "Ink").values}
    hands.settle(qtbot)
    form = hands.window.properties.form
    assert form.follows["text_colour"].isVisibleTo(form)
    form.follows["text_colour"].click()
    assert (
        find_page(hands.publication, hands.session.page_id).overrides
        == find_page(before, hands.session.page_id).overrides
    )
    hands.do("undo")
    hands.do("undo")
    assert hands.publication is before


def test_a_size_typed_and_taken_away(hands, qtbot):
    item = a_folio(hands)
    hands.settle(qtbot)
    field = hands.window.properties.form.fields["text_size"]
    field.setFocus()
    QTest.keyClicks(field, "15")
    QTest.keyClick(field, Qt.Key.Key_Return)
    page = find_page(hands.publication, hands.session.page_id)
    assert next(o for o in page.overrides if o.item == item).text_size == 15.0


def test_the_colour_for_dark_ground_is_taken_where_a_picture_is_moved_beneath(hands, qtbot):
    item = a_folio(hands)
    hands.settle(qtbot)
    choose(hands.window.properties.form.fields["on_dark"], "Paper")
    light = inks(hands, item)
    assert light != {colour(hands, "Paper").values}
    trim = hands.publication.setup.trim
    ink = colour(hands, "Ink").id
    lowest = hands.publication.layers[0].id
    night = Shape(id="", x=0, y=0, width=trim.width, height=trim.height, fill=Fill(ink),
                  layer=lowest)  # fmt: skip
    page = hands.session.page_id
    hands.session.edit("night", lambda p: add_item(p, page, night)[0])
    assert inks(hands, item) == {colour(hands, "Paper").values}
    hands.do("undo")
    assert inks(hands, item) == light


def test_the_same_colour_for_dark_ground_is_refused_in_a_sentence(hands, qtbot):
    item = a_folio(hands)
    page = hands.session.page_id
    ink = colour(hands, "Ink").id
    hands.session.edit("ink", lambda p: override(p, page, item, text_colour=ink))
    hands.settle(qtbot)
    before = hands.publication
    form = hands.window.properties.form
    choose(form.fields["on_dark"], "Ink")
    assert "“Ink” is what these words have on light ground, too" in form.problem.text()
    assert hands.publication is before
    assert form.fields["on_dark"].value() == colour(hands, "Cream").id  # as on the master


def test_a_style_says_it_for_all_that_is_set_in_it(hands, qtbot):
    item = a_folio(hands)
    words = master_item(hands.publication, item)[1].text
    style = paragraph_style(hands.publication, words[0].style)
    dialog = StyleDialog(hands.session, style.id, hands.window)
    choose(dialog.on_dark, "Paper")
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert paragraph_style(hands.publication, style.id).on_dark == colour(hands, "Paper").id
    frame_text = (Paragraph(style.id, (Run("Night "), Marker("folio"))),)
    ink = colour(hands, "Ink").id
    page = hands.session.page_id
    own = TextFrame(id="", x=60, y=100, width=200, height=30, text=frame_text, fill=Fill(ink))
    made: list[str] = []

    def change(p):
        p, new = add_item(p, page, own)
        made.append(new)
        return p

    hands.session.edit("night", change)
    assert inks(hands, made[-1]) == {colour(hands, "Paper").values}


def test_folios_that_depart_are_ticked_to_be_changed_too(hands, qtbot):
    item = a_folio(hands)
    page = hands.session.page_id
    said = (Paragraph(master_item(hands.publication, item)[1].text[0].style, (Run("here"),)),)
    hands.session.edit("words", lambda p: override(p, page, item, text=said))
    dialog = hands.window.dialogs.folios()
    rows = [dialog.departs.item(n).text() for n in range(dialog.departs.count())]
    assert "Page 3 (#9)" in rows
    row = dialog.departs.item(rows.index("Page 3 (#9)"))
    choose(dialog.on_dark, "Paper")
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    kept = find_page(hands.publication, page).overrides
    assert any(o.item == item and o.text == said for o in kept)
    assert master_item(hands.publication, item)[1].on_dark == colour(hands, "Paper").id
    hands.do("undo")
    dialog = hands.window.dialogs.folios()
    row = dialog.departs.item(rows.index("Page 3 (#9)"))
    row.setCheckState(Qt.CheckState.Checked)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    assert all(o.item != item for o in find_page(hands.publication, page).overrides)


def test_folios_and_styles_refuse_the_colour_that_words_have_anyway(hands, qtbot):
    a_folio(hands)
    before = hands.publication
    dialog = hands.window.dialogs.folios()
    style = paragraph_style(before, dialog.plan.style)
    usual = next(c.name for c in before.colours if c.id == own(style, "colour"))
    choose(dialog.on_dark, usual)
    QTest.mouseClick(dialog.ok, Qt.MouseButton.LeftButton)
    said = f"“{usual}” is what these words have on light ground, too"
    assert dialog.isVisible() and said in dialog.form.problem.text()
    dialog.reject()
    styles = StyleDialog(hands.session, style.id, hands.window)
    qtbot.addWidget(styles)
    styles.show()
    choose(styles.on_dark, usual)
    QTest.mouseClick(styles.ok, Qt.MouseButton.LeftButton)
    assert styles.isVisible() and said in styles.form.problem.text()
    styles.reject()
    assert hands.publication is before
