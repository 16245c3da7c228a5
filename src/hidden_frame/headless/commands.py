"""The commands that open no window, over the same core as the window."""

from __future__ import annotations

import json
import sys
import traceback
from pathlib import Path
from types import CodeType
from typing import Annotated, Any

import typer
from platformdirs import user_data_path

from hidden_frame.compose.composer import Composer
from hidden_frame.compose.composition import Composition
from hidden_frame.compose.contents import entries
from hidden_frame.compose.followers import followers
from hidden_frame.compose.given import Given
from hidden_frame.compose.listed import frames_with_lists
from hidden_frame.compose.markers import markers_in
from hidden_frame.compose.ranges import pages_in_range
from hidden_frame.demo.almanac import almanac
from hidden_frame.demo.driven import driven_book
from hidden_frame.headless.each import Task, checked, named, options, run_all
from hidden_frame.install import install, remove
from hidden_frame.interact.words.rules_told import followed_rule, rule_in_words
from hidden_frame.model.errors import Refusal
from hidden_frame.model.items import TextFrame
from hidden_frame.model.lookup import all_pages, find_page, masters_by_id, stack_of
from hidden_frame.model.memory import MEMORY
from hidden_frame.model.units import parse_length
from hidden_frame.output.pdf import export_pdf
from hidden_frame.output.png import export_png, page_images
from hidden_frame.settle.opening import opened_settled
from hidden_frame.settle.settling import settled
from hidden_frame.storage.format import EXTENSION, Opened, load, save

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    rich_markup_mode=None,
    pretty_exceptions_enable=False,
)
File = Annotated[Path, typer.Argument(help="A publication (.hframe).")]
Json = Annotated[bool, typer.Option("--json", help="Print JSON, one object a line.")]


def opened_and_composed(path: Path) -> tuple[Opened, Composition]:
    """A publication from a file, its warnings told, and its composition."""
    opened = load(path)
    for warning in opened.warnings:
        print(warning, file=sys.stderr)
    composer = Composer()
    composer.given = Given(path.stem)
    publication, told = opened_settled(opened.publication, composer)
    if told:
        print(told, file=sys.stderr)
    opened = opened._replace(publication=publication)
    return opened, composer.compose(publication)


@app.command()
def demo(
    path: Annotated[Path, typer.Argument(help="Where to write it.")],
    book: Annotated[
        bool, typer.Option("--book", help="Write a long book instead of the almanac.")
    ] = False,
) -> None:
    """Write the demo almanac to a file, or a long book through which a story flows."""
    if path.suffix != EXTENSION:
        raise Refusal(f"“{path.name}” should end in {EXTENSION}; name it {path.stem}{EXTENSION}.")
    publication, blobs = (settled(driven_book()), {}) if book else almanac()
    composition = Composer().compose(publication)
    first = all_pages(publication)[0].id
    preview = next(page_images(composition, blobs, [first], 48))
    save(path, publication, blobs, preview)


def page_rows(composition: Composition) -> list[dict[str, Any]]:
    """What `pages --json` prints: one object for each page."""
    publication = composition.publication
    masters = masters_by_id(publication)
    rows = []
    for page in all_pages(publication):
        facts, rule = composition.facts[page.id], followed_rule(publication, page)
        rows.append(
            {
                "position": facts.position,
                "folio": facts.folio,
                "side": facts.side,
                "spread": facts.spread,
                "section": facts.section_name,
                "masters": [masters[m].name for m in stack_of(publication, page)],
                "automatic": page.masters is None,
                "rule": rule_in_words(publication, rule) if rule is not None else None,
                "heads": heads_on(composition, page.id),
                "blind": page.blind,
                "overrides": len(page.overrides),
            }
        )
    return rows


def heads_on(composition: Composition, page_id: str) -> list[str]:
    """What the running heads of a page show, in the order in which it is painted."""
    page = find_page(composition.publication, page_id)
    return [
        composition.value(marker, page_id)
        for resolved in composition.view(page).items
        if isinstance(resolved.item, TextFrame)
        for marker in markers_in(resolved.item.text)
        if marker.head is not None
    ]


def contents_rows(composition: Composition) -> list[dict[str, Any]]:
    """What `contents --json` prints: one object for each line of each contents list."""
    publication = composition.publication
    frames = frames_with_lists(publication.sections)
    lists = [f.contents for f in frames if f.contents is not None]
    lists += [s.contents for s in publication.stories if s.contents is not None]
    return [
        {
            "list": number, "level": entry.level + 1, "number": entry.number,
            "text": entry.text, "folio": entry.folio, "position": entry.position,
        }
        for number, contents in enumerate(lists, 1)
        for entry in entries(composition, contents)
    ]  # fmt: skip


@app.command()
def contents(file: File, as_json: Json = False) -> None:
    """List what the contents lists say: level, number, text, folio, position."""
    rows = contents_rows(opened_and_composed(file)[1])
    if not rows and not as_json:
        print("There is no contents list in this publication.")
    for row in rows:
        if as_json:
            print(json.dumps(row, ensure_ascii=False))
        else:
            words = f"{row['number']} {row['text']}".strip()
            print(f"{'  ' * (row['level'] - 1)}{words}  {row['folio'] or '–'}")


@app.command()
def pages(file: File, as_json: Json = False) -> None:
    """List the pages: position, folio, side, section, masters."""
    for row in page_rows(opened_and_composed(file)[1]):
        if as_json:
            print(json.dumps(row, ensure_ascii=False))
        else:
            stack = " + ".join(row["masters"]) or "no master"
            marks = " · blind" if row["blind"] else ""
            print(
                f"#{row['position']:<4} {row['folio'] or '–':>6}  {row['side']:5}  "
                f"{row['section']:16} {stack}{marks}"
            )


def info_of(composition: Composition) -> dict[str, Any]:
    """What `info --json` prints."""
    publication = composition.publication
    names = {m.id: m.name for m in publication.masters}
    counts = followers(publication)
    return {
        "title": publication.title,
        "pages": len(composition.facts),
        "masters": [
            {
                "name": m.name,
                "base": names[m.base] if m.base is not None else None,
                "followers": len(counts[m.id]),
            }
            for m in publication.masters
        ],
        "sections": [
            {
                "name": s.name,
                "pages": len(s.pages),
                "style": s.numbering.style,
                "start": s.numbering.start,
                "prefix": s.numbering.prefix,
                "counted": s.numbering.style != "none" or s.numbering.counted,
            }
            for s in publication.sections
        ],
        "details": {d.name: d.value for d in publication.details},
    }


@app.command()
def info(file: File, as_json: Json = False) -> None:
    """Say what a publication holds: masters, sections, details."""
    found = info_of(opened_and_composed(file)[1])
    if as_json:
        print(json.dumps(found, ensure_ascii=False))
        return
    print(f"{found['title']}: {found['pages']} pages")
    for master in found["masters"]:
        base = f" on {master['base']}" if master["base"] else ""
        print(f"  master {master['name']}{base}, {master['followers']} pages follow")
    for section in found["sections"]:
        print(f"  section {section['name'] or '(no name)'}: {section['pages']} pages")


Jobs = Annotated[int, typer.Option(help="Files at a time; as many as there are cores.")]
Scheduler = Annotated[str, typer.Option(help="A Dask scheduler, such as tcp://host:8786.")]
EachFile = Annotated[bool, typer.Option("--each", help="Do it for every file that is named.")]


@app.command()
def export(
    files: Annotated[list[str], typer.Argument(help="FILE OUT; with --each, FILES.")],
    pages: Annotated[str, typer.Option(help="Which pages, such as 3, 7, 12-18 or #4.")] = "all",
    dpi: Annotated[float, typer.Option(help="Resolution of pictures.")] = 144,
    bleed: Annotated[str, typer.Option(help="Around the trim in a PDF, such as 3mm.")] = "",
    each: EachFile = False,
    out: Annotated[str, typer.Option(help="With --each: names, such as out/{name}.pdf.")] = "",
    jobs: Jobs = 0,
    scheduler: Scheduler = "",
    as_json: Json = False,
) -> None:
    """Export pages to OUT.pdf, or to a PNG each (OUT-%d.png); of one file, or of many."""
    if not each:
        if len(files) != 2:
            raise typer.BadParameter("name the file and where to write it, or use --each")
        _export(Path(files[0]), files[1], pages, dpi, bleed)
        return
    outs = [named(out or "{folder}/{name}.pdf", file) for file in files]
    checked(files, outs)
    said = tuple(options(pages=pages, dpi=dpi, bleed=bleed))
    tasks = [Task(f, ("export", f, to, *said), to) for f, to in zip(files, outs, strict=True)]
    if run_all(tasks, jobs, scheduler, as_json):
        raise typer.Exit(1)


def _export(file: Path, out: str, pages: str, dpi: float, bleed: str) -> None:
    opened, composition = opened_and_composed(file)
    chosen = pages_in_range(opened.publication, pages)
    kind = Path(out).suffix.lower()
    if kind == ".pdf":
        around = parse_length(bleed, opened.publication.setup.unit) if bleed else None
        report = export_pdf(composition, opened.blobs, out, chosen, bleed=around)
        for sentence in report.sentences:
            print(sentence, file=sys.stderr)
    elif kind == ".png":
        export_png(composition, opened.blobs, out, chosen, dpi)
    else:
        raise Refusal(f"“{out}” ends in neither .pdf nor .png; name the file by its kind.")


@app.command("install")
def install_command(
    away: Annotated[bool, typer.Option("--remove", help="Take it out again.")] = False,
) -> None:
    """Put the program into the desktop's menu for this user: entry, icon, file type, manual."""
    data = user_data_path()  # $XDG_DATA_HOME, or its default
    files = remove(data) if away else install(data)
    for path in files:
        print(f"{'removed' if away else 'installed'} {path}")


@app.command()
def status(file: File, as_json: Json = False) -> None:
    """Compose a whole publication and print what is remembered of it, the heaviest first."""
    _, composition = opened_and_composed(file)
    scenes = composition.scenes()
    rows = [row for row in MEMORY.report() if row.entries]
    if as_json:
        for row in rows:
            print(json.dumps(row._asdict()))
        return
    whole = sum(row.weight for row in rows) / 1024**2
    print(f"{len(scenes)} pages composed; {whole:.1f} MB of derived values")
    for row in rows:
        print(f"{row.weight / 1024**2:9.2f} MB {row.entries:8}  {row.name}")


@app.command(context_settings={"ignore_unknown_options": True})
def run(
    script: Annotated[Path, typer.Argument(help="A script in Python.")],
    file: Annotated[Path | None, typer.Argument(help="A publication, opened as `book`.")] = None,
    arguments: Annotated[list[str] | None, typer.Argument(help="For the script.")] = None,
    each: EachFile = False,
    jobs: Jobs = 0,
    scheduler: Scheduler = "",
    as_json: Json = False,
) -> None:
    """Run a script, with `hf` for Hidden Frame and `book` for the publication; with --each for
    every file that is named, a line each."""
    if each:
        _compiled(script)  # what can't be run is said once
        files = [str(f) for f in (*([file] if file else []), *(arguments or []))]
        checked(files, [])
        tasks = [Task(f, ("run", str(script), f)) for f in files]
        if run_all(tasks, jobs, scheduler, as_json):
            raise typer.Exit(1)
        return
    _run(script, file, arguments or [])


def _run(script: Path, file: Path | None, arguments: list[str]) -> None:
    import hidden_frame as hf  # what scripts use

    known: dict[str, object] = {"hf": hf}
    if file is not None:
        known["book"] = hf.Document.open(file)
    code = _compiled(script)
    sys.argv = [str(script), *([str(file)] if file else []), *arguments]
    try:
        exec(code, {"__name__": "__main__", "__file__": str(script), **known})
    except Refusal as refusal:
        raise Refusal(f"{script.name}, line {_line_in(script, refusal)}: {refusal}") from refusal


def _compiled(script: Path) -> CodeType:
    """The text of a script, compiled.  Nothing else is ever run: an archive may hold a program, and
    a publication is an archive."""
    if not script.is_file():
        raise Refusal(f"There is no script “{script}”; name a file that ends in .py.")
    if script.suffix.lower() != ".py":
        raise Refusal(f"“{script.name}” is no script; name a text in Python that ends in .py.")
    try:
        return compile(script.read_bytes().decode("utf-8-sig"), str(script), "exec")
    except (UnicodeDecodeError, ValueError, SyntaxError) as error:
        where = f", line {error.lineno}" if isinstance(error, SyntaxError) else ""
        raise Refusal(f"“{script.name}”{where} can't be read as a text in Python.") from error


def _line_in(script: Path, error: BaseException) -> int:
    """The line of a script at which it failed."""
    frames = traceback.extract_tb(error.__traceback__)
    return next((f.lineno or 0 for f in reversed(frames) if f.filename == str(script)), 0)
