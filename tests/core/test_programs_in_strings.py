"""Programs that tests and benchmarks hand to a process of their own name what there is."""

import ast
import re
from importlib import import_module
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
IMPORTED = re.compile(r"^\s*from (hidden_frame[\w.]*) import ([\w, ]+)$", re.MULTILINE)


def imported():
    for folder in ("tests", "benchmarks", "scripts"):
        for path in sorted((ROOT / folder).rglob("*.py")):
            for node in ast.walk(ast.parse(path.read_text("utf-8"))):
                if isinstance(node, ast.Constant) and isinstance(node.value, str):
                    for module, names in IMPORTED.findall(node.value):
                        for name in re.findall(r"\w+", names.split(" as ")[0]):
                            yield pytest.param(module, name, id=f"{path.name}: {name}")


@pytest.mark.parametrize("module, name", list(imported()))
def test_what_they_import_is_there(module, name):
    found = import_module(module)
    assert hasattr(found, name) or import_module(f"{module}.{name}")
