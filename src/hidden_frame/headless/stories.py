"""Commands about stories: pour a manuscript in, list them, write one out."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Any, get_args

import typer

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.edit.history import History
from hidden_frame.edit.stories import pour
from hidden_frame.edit.text.bring import brought, pictures_kept
from hidden_frame.edit.text.sent import as_paragraphs, character_looks
from hidden_frame.headless.commands import File, Json, app, opened_and_composed
from hidden_frame.interact.words.storied import state
from hidden_frame.model.errors import Refusal
from hidden_frame.model.lookup import find_story
from hidden_frame.model.number_format import grouped
from hidden_frame.model.numbering import NumberingStyle
from hidden_frame.model.publication import Publication, Section
from hidden_frame.model.stories import Story
from hidden_frame.model.text import Anchor
from hidden_frame.settle.step import step
from hidden_frame.storage.format import EXTENSION, save
from hidden_frame.storage.manuscripts.manuscript import report_in_words
from hidden_frame.storage.manuscripts.read import read
from hidden_frame.storage.manuscripts.write import written


@app.command("pour")
def pour_command(
    manuscript: Annotated[Path, typer.Argument(help="A .docx, .odt, .md, .html or .txt.")],
    book: File,
    section: Annotated[str, typer.Option(help="The section; the last one by default.")] = "",
    out: Annotated[Path | None, typer.Option(help="Write to another file.")] = None,
    encoding: Annotated[str, typer.Option(help="Of a plain text.")] = "",
    notes: Annotated[bool, typer.Option(help="Live notes, or all at the end.")] = True,
    pictures: Annotated[bool, typer.Option(help="In the text, or in the story's tray.")] = True,
) -> None:
    """Pour a manuscript into a section's story, and say what came and what was left out."""
    if out is not None and out.suffix != EXTENSION:
        raise Refusal(f"“{out.name}” should end in {EXTENSION}; name it {out.stem}{EXTENSION}.")
    opened, _ = opened_and_composed(book)
    publication = opened.publication
    chosen = _section(publication, section)
    source = read(manuscript, encoding)
    source = source.with_live_notes() if notes else source.with_notes_at_end()
    source = source if pictures else source.with_pictures_in_tray()
    blobs = dict(opened.blobs)
    publication, text = brought(publication, source, None, blobs)
    publication, story_id = pour(publication, chosen.id, text, source.name)
    first = len(find_story(publication, story_id).text) - len(text)
    left = len(source.pictures) - sum(isinstance(c, Anchor) for p in text for c in p.content)
    if not pictures:
        kept = pictures_kept(publication, story_id, source, first)
        publication, left = kept.publication, kept.left
        blobs |= kept.blobs
    composer = Composer()
    history = step(History.of(opened.publication), "pour", lambda _: publication, composer)
    save(out or book, history.now, blobs)
    print(report_in_words(source))
    if left:
        print(f"{left} of the pictures are of a kind that can't be placed.")
    print(state(composer.compose(history.now), story_id).sentence)


def _section(publication: Publication, name: str) -> Section:
    if not name:
        return publication.sections[-1]
    found = [s for s in publication.sections if s.name.casefold() == name.casefold()]
    if not found:
        names = ", ".join(f"“{s.name}”" for s in publication.sections if s.name)
        raise Refusal(f"There is no section “{name}”; there are {names or 'none with a name'}.")
    return found[0]


def story_rows(composition: Composition) -> list[dict[str, Any]]:
    """What `stories --json` prints: one object for each story."""
    rows = []
    for story in composition.publication.stories:
        now = state(composition, story.id)
        rows.append(
            {
                "name": story.name,
                "words": now.words,
                "characters": now.characters,
                "frames": now.frames,
                "first": _page(composition, now.first),
                "last": _page(composition, now.last),
                "fits": now.fits,
                "words_left_over": now.left,
            }
        )
    return rows


def _page(composition: Composition, page_id: str) -> dict[str, Any] | None:
    facts = composition.facts.get(page_id)
    return None if facts is None else {"folio": facts.folio, "position": facts.position}


@app.command("stories")
def stories_command(file: File, as_json: Json = False) -> None:
    """List the stories: words, pages, and whether they fit."""
    _, composition = opened_and_composed(file)
    for row in story_rows(composition):
        if as_json:
            print(json.dumps(row, ensure_ascii=False))
            continue
        ends = [f"#{at['position']}" for at in (row["first"], row["last"]) if at]
        over = "" if row["fits"] else f" · {grouped(row['words_left_over'])} words left over"
        print(f"{row['name']:30} {row['words']:>9,} words  {'–'.join(ends) or 'no page'}{over}")


@app.command("story")
def story_command(
    file: File,
    name: Annotated[str, typer.Argument(help="The story's name.")],
    out: Annotated[Path, typer.Argument(help="OUT.docx, .odt, .html, .md or .txt.")],
) -> None:
    """Export a story, so that its author can correct it."""
    opened, _ = opened_and_composed(file)
    story = _story(opened.publication, name)
    paragraphs = as_paragraphs(opened.publication, story.text, opened.blobs)
    looks = character_looks(opened.publication)
    data = written(paragraphs, out.suffix.lower().lstrip("."), story.name, looks)
    try:
        out.write_bytes(data)
    except OSError as error:
        raise Refusal(f"“{out}” can't be written: {error.strerror or error}.") from error


def _story(publication: Publication, name: str) -> Story:
    for story in publication.stories:
        if story.name.casefold() == name.casefold():
            return story
    names = ", ".join(f"“{s.name}”" for s in publication.stories)
    raise Refusal(f"There is no story “{name}”; there {'are ' + names if names else 'is none'}.")


@app.command("section")
def section_command(
    file: File,
    page: Annotated[str, typer.Argument(help="The page that it starts at, such as 7, iv or #12.")],
    name: Annotated[str, typer.Option(help="Its name.")] = "",
    style: Annotated[str, typer.Option(help="decimal, lower roman, … or none.")] = "decimal",
    start: Annotated[int | None, typer.Option(help="Its first number.")] = None,
    prefix: Annotated[str, typer.Option(help="What stands before its numbers.")] = "",
    begins: Annotated[str, typer.Option(help="The first words of what it begins with.")] = "",
    out: Annotated[Path | None, typer.Option(help="Write to another file.")] = None,
) -> None:  # fmt: skip
    """Start a section at a page; texts that run over it stay where they stand."""
    from hidden_frame.script.document import Document

    if style not in get_args(NumberingStyle):
        known = ", ".join(get_args(NumberingStyle))
        raise Refusal(f"There is no numbering “{style}”; there are {known}.")
    if out is not None and out.suffix != EXTENSION:
        raise Refusal(f"“{out.name}” should end in {EXTENSION}; name it {out.stem}{EXTENSION}.")
    document = Document.open(file)
    made = document.section_at(page, name, style, start, prefix, begins)  # type: ignore[arg-type]
    document.save(out or file)
    folios = [each.folio for each in made.pages]
    last = f" to {folios[-1]}" if len(folios) > 1 else ""
    print(f"{made.name or 'The section'}: {len(folios)} pages, {folios[0] or 'no folio'}{last}")
