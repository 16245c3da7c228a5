"""Other forms of a letter: found in the font, shown, printed, and still the same letter."""

from __future__ import annotations

import io

import pypdf
import pytest
from fontTools.ttLib import TTFont
from msgspec.structs import replace

from hidden_frame.compose.composer import Composer
from hidden_frame.edit.items.draw import add_item
from hidden_frame.edit.text.write import insert, set_look
from hidden_frame.interact.finds.characters import forms
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages
from hidden_frame.model.text import Look, Paragraph, Run
from hidden_frame.output.pdf import pdf_bytes
from hidden_frame.resources import FONTS
from hidden_frame.typeset.fonts import font_book
from hidden_frame.typeset.shaping import Lettering, shape


def test_the_forms_of_a_letter_are_those_of_the_font_s_own_table():
    """The oracle is the font's substitution table, read by fontTools: single and alternate ones."""
    face = font_book().face("Spectral", False, False)
    font = TTFont(FONTS / "Spectral-Regular.ttf")
    names, table = font.getBestCmap(), font["GSUB"].table
    wanted = set()
    for record in table.FeatureList.FeatureRecord:
        if record.FeatureTag == "aalt" or record.FeatureTag.startswith("ss"):
            for number in record.Feature.LookupListIndex:
                for part in table.LookupList.Lookup[number].SubTable:
                    part = getattr(part, "ExtSubTable", part)
                    found = getattr(part, "mapping", None) or getattr(part, "alternates", {})
                    other = found.get(names[ord("a")], ())
                    wanted |= {other} if isinstance(other, str) else set(other)
    shown = {
        font.getGlyphName(glyph)
        for each in forms(face, "a")
        for glyph in shape(face, "a", manner=Lettering((each.alternate,))).glyphs
    }
    assert wanted and shown == wanted


@pytest.mark.parametrize("character", ["Q", "a", "0"])
def test_each_form_is_drawn_once_and_none_is_the_usual_one(character):
    face = font_book().face("Spectral", False, False)
    drawn = [shape(face, character, manner=Lettering((f.alternate,))).glyphs
             for f in forms(face, character)]  # fmt: skip
    assert drawn and len(set(drawn)) == len(drawn)
    assert shape(face, character).glyphs not in drawn


def test_a_form_is_kept_by_its_letters_alone_and_reads_back_as_the_letter(small):
    style = small.paragraph_styles[0].id
    small = replace(
        small, paragraph_styles=(replace(small.paragraph_styles[0], family="Spectral"),
                                 *small.paragraph_styles[1:]),
    )  # fmt: skip
    text = (Paragraph(style, (Run("a Qa"),)),)
    text = set_look(text, (0, 2), (0, 3), alternate=forms(
        font_book().face("Spectral", False, False), "Q")[0].alternate)  # fmt: skip
    text, _ = insert(text, (0, 3), "u")
    assert [(c.text, c.look and c.look.alternate) for c in text[0].content] == [
        ("a ", None), ("Q", text[0].content[1].look.alternate), ("ua", None),
    ]  # fmt: skip
    assert insert((Paragraph(style, (Run("Q", look=Look(bold=True, alternate="ss01")),)),),
                  (0, 1), "u")[0][0].content[1].look == Look(bold=True)  # fmt: skip
    page = all_pages(small)[0].id
    small, _ = add_item(small, page, TextFrame(id="", x=9, y=9, width=200, height=90, text=text))
    printed = pypdf.PdfReader(io.BytesIO(pdf_bytes(Composer().compose(small), {})))
    assert "a Qua" in printed.pages[0].extract_text()
