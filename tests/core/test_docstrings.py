"""The docstrings of the core's public functions."""

import ast
import unittest
from collections.abc import Iterator
from pathlib import Path

import glyptarch_core

_CORE = Path(glyptarch_core.__file__).parent


def unnamed_errors(source: str) -> Iterator[str]:
    """Yield each error that a public function raises itself and its docstring does not name."""
    for node in ast.parse(source).body:
        members = node.body if isinstance(node, ast.ClassDef) and not node.name.startswith("_") else [node]
        for member in members:
            if not isinstance(member, ast.FunctionDef) or member.name.startswith("_"):
                continue
            given = ast.get_docstring(member) or ""
            for inner in ast.walk(member):
                if isinstance(inner, ast.Raise) and isinstance(inner.exc, ast.Call):
                    error = inner.exc.func
                    if isinstance(error, ast.Name) and not error.id.startswith("_") and error.id not in given:
                        yield f"{member.name} raises {error.id}"


class TestDocstrings(unittest.TestCase):
    def test_a_function_names_the_errors_it_raises(self) -> None:
        found = {
            str(path.relative_to(_CORE)): errors
            for path in sorted(_CORE.rglob("*.py"))
            if (errors := list(unnamed_errors(path.read_text(encoding="utf-8"))))
        }
        self.assertEqual(found, {})

    def test_an_error_without_a_word_is_found(self) -> None:
        source = 'def read():\n    """Read it."""\n    raise ValueError("no")\n'
        self.assertEqual(list(unnamed_errors(source)), ["read raises ValueError"])
        self.assertEqual(list(unnamed_errors(source.replace("Read it.", "Read it. Raises ValueError."))), [])
