"""Menus at the pointer: what they offer, and that it is done."""

from __future__ import annotations

from PySide6.QtCore import QPoint
from PySide6.QtWidgets import QMenu

from hidden_frame.model.lookup import all_pages, find_master, find_page, stack_of


def actions(hands, name):
    menu = hands.window.findChildren(QMenu, name)[-1]
    return {a.text(): a for a in menu.actions() if a.text()}


def test_the_menu_of_a_master(hands):
    hands.session.select_pages((hands.page(9), hands.page(10)))
    notes = hands.master("Notes")
    hands.window.menus.master(notes, QPoint(10, 10))
    offered = actions(hands, "MasterMenu")
    offered["Add to the selected pages"].trigger()
    assert stack_of(hands.publication, find_page(hands.publication, hands.page(9)))[-1] == notes
    offered["Select the pages that follow it"].trigger()
    assert hands.page(9) in hands.session.pages and hands.page(28) in hands.session.pages
    ribbons = next(
        m for m in hands.window.findChildren(QMenu) if m.title() == "Colour of its ribbon"
    )
    ribbons.actions()[10].trigger()
    assert find_master(hands.publication, notes).ribbon == 10
    offered["New master based on it"].trigger()
    assert find_master(hands.publication, hands.session.master_id).base == notes


def test_the_menu_of_a_section(hands):
    hands.do("flatplan")
    summer = next(s for s in hands.publication.sections if s.name == "Summer")
    hands.window.menus.section(summer.id, QPoint(10, 10))
    offered = actions(hands, "SectionMenu")
    assert len(hands.session.pages) == 5
    offered["Name and numbering…"].trigger()
    form = hands.window.properties.form
    assert form.section.text() == "Summer"
    offered["One place earlier"].trigger()
    assert [s.name for s in hands.publication.sections][2:4] == ["Summer", "Spring"]
    offered["Duplicate"].trigger()
    assert len(all_pages(hands.publication)) == 37
    offered["Delete, its pages stay"].trigger()
    assert "Summer" in [s.name for s in hands.publication.sections]  # the copy
    assert len(all_pages(hands.publication)) == 37


def test_the_menu_of_pages_is_the_commands(hands):
    hands.do("flatplan")
    hands.session.select_pages((hands.page(12),))
    hands.window.menus.pages(QPoint(10, 10))
    offered = actions(hands, "PageMenu")
    assert list(offered)[:3] == [
        "Make this page number 1", "Start a section here…", "End the section with this page"
    ]  # fmt: skip
    offered["Make this page number 1"].trigger()
    assert hands.session.composition.facts[hands.page(12)].folio == "1"
