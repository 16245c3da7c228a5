"""What the documents say of the code is so: rules and their tests, lists of files, links."""

import ast
import inspect
import re
from pathlib import Path

import pytest
from benchmarks.measures import Row
from benchmarks.written import BEGIN, END, PAGE, merged
from scripts import make_reference

from hidden_frame import script

ROOT = Path(__file__).parents[2]
RULES = (ROOT / "docs" / "rules.md").read_text("utf-8")
HOW_TO = (ROOT / "CONTRIBUTING.md").read_text("utf-8")
PAGES = [ROOT / "README.md", ROOT / "CONTRIBUTING.md", ROOT / "CHANGELOG.md",
         *sorted((ROOT / "docs").glob("*.md")), ROOT / "docs" / "format" / "README.md"]  # fmt: skip
# What a file must hold for each example of the lists.
MARKS = {
    "hyphen_ends": r"hyphen_ends",
    "no folios": r"no folios|remove_folios",
    "low resolution": r"low resolution|picture_faults|def smaller",
    "Shape": r"\bShape\b",
}


def test_every_rule_names_a_test_that_exists():
    rules = re.findall(r"\*\*(R\d+a?)\.\*\*(.*?)(?=\n\*\*R|\n## |\nR29)", RULES, re.S)
    assert [name for name, _ in rules] == sorted(
        (name for name, _ in rules), key=lambda n: (int(re.sub(r"\D", "", n)), n)
    )
    assert len(rules) > 30
    for name, said in rules:
        tests = re.findall(r"`(tests/[\w/]+\.py)::(\w+)`", said)
        assert tests, name
        for path, function in tests:
            assert f"def {function}(" in (ROOT / path).read_text("utf-8"), (name, function)


def test_every_rule_that_code_or_a_test_cites_is_explained():
    explained = set(re.findall(r"\bR\d+a?\b", RULES))
    cited = set()
    for folder in ("src/hidden_frame", "tests/core", "tests/desktop"):
        for path in (ROOT / folder).rglob("*.py"):
            cited |= set(re.findall(r"\b(R\d{1,2}a?)\b(?!\w)", path.read_text("utf-8")))
    assert {c for c in cited if 1 <= int(re.sub(r"\D", "", c)) <= 31} <= explained


def test_the_schema_cites_no_rule():
    schema = (ROOT / "docs" / "format" / "publication.schema.json").read_text("utf-8")
    assert not re.search(r"\(R\d", schema)


@pytest.mark.parametrize("part", re.split(r"\n### ", HOW_TO.split("\n## How it")[0])[1:],
                         ids=lambda part: part.split("(")[0].strip())  # fmt: skip
def test_the_files_of_a_list_are_those_that_its_example_is_in(part):
    example = re.search(r"\(`([^`]+)`\)", part.splitlines()[0])[1]
    named = re.findall(r"^- `([^`]+)`:", part, re.M)
    assert 3 <= len(named) <= 6
    for name in named:
        path = ROOT / name
        assert path.is_file(), name
        if path.name != "keys.md":
            assert re.search(MARKS[example], path.read_text("utf-8")), name


@pytest.mark.parametrize("page", PAGES, ids=lambda p: p.relative_to(ROOT).as_posix())
def test_links_lead_somewhere(page):
    text = page.read_text("utf-8")
    for target in re.findall(r"\]\(([^)#]+)", text):
        if not target.startswith(("http", "mailto")):
            assert (page.parent / target).exists(), target


def test_files_that_documents_name_are_there():
    """Paths in backquotes, from the source's root or from the project's."""
    roots = (ROOT, ROOT / "src" / "hidden_frame", ROOT / "src" / "hidden_frame" / "desktop")
    for page in PAGES:
        if page.name in ("CHANGELOG.md", "README.md"):
            continue
        for name in re.findall(r"`((?:[\w.-]+/)+[\w.-]+\.(?:py|md|tsv|json))`", page.read_text()):
            assert any((root / name).exists() for root in roots), (page.name, name)


def test_the_readme_is_short_and_shows_pictures():
    readme = (ROOT / "README.md").read_text("utf-8")
    assert len(readme.splitlines()) <= 150
    pictures = re.findall(r"!\[[^]]*\]\(([^)]+)\)", readme)
    assert len(pictures) == len(set(pictures)) == 6
    assert "./start " in readme and "./check " in readme


def test_measured_rows_take_the_place_of_old_ones():
    page = PAGE.read_text("utf-8")
    first = page.split(BEGIN)[1].strip().splitlines()[2].split("|")[1].strip()
    made = merged(page, [Row(first, 1.5, "ms", 16.0, 1.0), Row("new", 2, "ratio", 1)], "2031-02-03")
    rows = made.split(BEGIN)[1].split(END)[0].strip().splitlines()
    assert rows[2] == f"| {first} | 1.50 ms | 1.00 | 16 | yes | 2031-02-03 |"
    assert rows[-1] == "| new | 2.00 ratio |  | 1 | no | 2031-02-03 |"
    assert len(rows) == len(page.split(BEGIN)[1].split(END)[0].strip().splitlines()) + 1
    assert made.split(END)[1] == page.split(END)[1] and made.startswith(page.split(BEGIN)[0])
    assert merged(made, [], "2031-02-03") == made


def test_no_class_has_a_name_that_another_one_has():
    """One word names one thing; what scripts call a section is one."""
    found = {}
    for path in (ROOT / "src" / "hidden_frame").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.ClassDef) and not node.name.startswith("_"):
                found.setdefault(node.name, set()).add(path.name)
    twice = {name: files for name, files in found.items() if len(files) > 1}
    assert twice.keys() <= {"Section"}, twice


def test_the_reference_for_scripts_is_what_the_code_says():
    made = (ROOT / "docs" / "scripting-reference.md").read_text("utf-8")
    assert made == make_reference.reference(), "run scripts/make_reference.py"


def test_every_call_that_scripts_have_is_described_with_an_example():
    for name in script.__all__:
        kind = getattr(script, name)
        if inspect.isclass(kind) and name != "Refusal":
            for member, value in make_reference._members(kind):
                assert ">>>" in (inspect.getdoc(value) or ""), f"{name}.{member}"
