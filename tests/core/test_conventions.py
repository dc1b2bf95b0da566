"""Conventions that hold for the whole core."""

import ast
from pathlib import Path

import pytest

PACKAGE = Path(__file__).parents[2] / "src" / "extendum"
MODULES = sorted(path for part in ("core", "formats", "draw") for path in (PACKAGE / part).glob("*.py"))


@pytest.mark.parametrize("path", MODULES, ids=lambda path: f"{path.parent.name}.{path.stem}")
def test_a_module_says_what_it_is_stays_small_and_knows_no_clock(path):
    tree = ast.parse(path.read_text())
    assert ast.get_docstring(tree)
    for node in ast.walk(tree):
        if isinstance(node, ast.Import | ast.ImportFrom) and path.parent.name == "core":
            names = [alias.name for alias in node.names] + [getattr(node, "module", "") or ""]
            assert not {"time", "datetime", "random", "os", "pathlib"} & set(names)
    assert len(path.read_text().splitlines()) <= 350


@pytest.mark.django_db
def test_no_migration_is_missing():
    from django.core.management import call_command

    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
