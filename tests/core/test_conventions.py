"""Conventions that hold for the whole core."""

import ast
from pathlib import Path

import pytest

PACKAGE = Path(__file__).parents[2] / "src" / "extendum"
MODULES = sorted(path for part in ("core", "formats", "draw") for path in (PACKAGE / part).rglob("*.py"))
#: Whatever the core is asked, it answers the same tomorrow and elsewhere.
NOT_IN_THE_CORE = {"time", "random", "os", "pathlib", "socket", "subprocess", "threading", "asyncio"}


@pytest.mark.parametrize("path", MODULES, ids=lambda path: ".".join(path.relative_to(PACKAGE).with_suffix("").parts))
def test_a_module_says_what_it_is_stays_small_and_knows_no_clock(path):
    tree = ast.parse(path.read_text())
    assert ast.get_docstring(tree)
    for node in ast.walk(tree):
        if isinstance(node, ast.Import | ast.ImportFrom) and path.is_relative_to(PACKAGE / "core"):
            names = [alias.name for alias in node.names] + [getattr(node, "module", "") or ""]
            assert not NOT_IN_THE_CORE & {name.split(".")[0] for name in names}
        if (
            isinstance(node, ast.Call)
            and isinstance(node.func, ast.Attribute)
            and path.is_relative_to(PACKAGE / "core")
        ):
            assert node.func.attr not in ("now", "today", "utcnow")
    assert len(path.read_text().splitlines()) <= 350


def test_packages_are_looked_into():
    assert {path.parent.name for path in MODULES} >= {"core", "checks", "run", "figure"}


@pytest.mark.django_db
def test_no_migration_is_missing():
    from django.core.management import call_command

    call_command("makemigrations", check=True, dry_run=True, verbosity=0)
