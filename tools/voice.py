"""``python -m tools.voice``: check docstrings, comments, names and commit subjects.

ruff checks the form of docstrings (pydocstyle, pep8-naming); this checks what it cannot: worn words that each need a
second reading, long first lines, and names that say nothing. CONTRIBUTING.md has the rules.
"""

import ast
import re
import subprocess
import sys
import tokenize
from collections.abc import Iterator
from pathlib import Path
from typing import Final

__all__ = ["faults_of_source", "faults_of_subject"]

_REPOSITORY = Path(__file__).resolve().parents[1]
_LONGEST_LINE = 90
_LONGEST_SUBJECT = 72

_BEGINNINGS: Final = {
    "Give": "write Return or Yield",
    "Gives": "write Return or Yield",
    "Tell": "write Whether for a predicate, Return for a value",
    "Tells": "write Whether for a predicate, Return for a value",
    "Say": "write Return, or name what is written where",
}
_WORN: Final = {
    r"\bis had\b|\bare had\b|\bcan be had\b|\bcannot be had\b": "write fetch, read or get",
    r"\b[Ww]hoever\b": "name the person or program",
    r"\bas it stands?\b|\bas they stand\b": "write present, unchanged or as written",
    r"\bcounts? no more\b|\bno more than is\b": "say what is dropped or allowed",
    r"\bare told apart\b|\bis told apart\b": "write distinguish",
    r"\bwhat is no\b|\bthat is none\b|\bare none of\b": "write invalid, or name it",
    r"\bcome of it\b|\bcomes of it\b": "write result",
}
_IMPERATIVES: Final = frozenset({"Embed", "Feed", "Need", "Seed", "Speed", "Bring", "String"})
"""Verbs whose imperative ends like a past tense or a participle."""
_SAY_NOTHING: Final = frozenset({"one", "found", "given", "made", "known", "had", "told", "come", "place"})
"""Names that say too little for a parameter of a public function."""
_SHORT_NAMES: Final = frozenset("_abkmnqtxyTRPS")
"""Names of one letter that mathematics, tests of pure text and generics use; no others."""
_HOLDERS: Final = (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)
_ROOMS_OF_NAMES: Final = ("core/", "server/", "launcher/", "standins/")


def _worn(text: str) -> Iterator[str]:
    for pattern, remedy in _WORN.items():
        if match := re.search(pattern, text):
            yield f"“{match[0]}”: {remedy}"


def _faults_of_docstring(text: str) -> Iterator[str]:
    first = text.strip().split("\n\n")[0].replace("\n", " ")
    beginning = first.split(" ", 1)[0]
    if beginning in _BEGINNINGS:
        yield f"begins with {beginning}: {_BEGINNINGS[beginning]}"
    if len(re.sub(r"\s+", " ", first)) > _LONGEST_LINE:
        yield f"first line over {_LONGEST_LINE} characters: move the rest into a paragraph"
    if ";" in re.sub(r"``[^`]*``|\([^()]*\)", "", first):
        yield "semicolon in the first line: make a second sentence of it"
    yield from _worn(text)


def _faults_of_names(tree: ast.AST) -> Iterator[tuple[int, str]]:
    for node in ast.walk(tree):
        if isinstance(node, (ast.FunctionDef, ast.AsyncFunctionDef)):
            arguments = node.args.posonlyargs + node.args.args + node.args.kwonlyargs
            for argument in arguments:
                if not node.name.startswith("_") and argument.arg in _SAY_NOTHING:
                    yield (
                        argument.lineno,
                        f"parameter “{argument.arg}” of {node.name} says too little: name what it holds",
                    )
                if len(argument.arg) == 1 and argument.arg not in _SHORT_NAMES:
                    yield argument.lineno, f"parameter “{argument.arg}” of {node.name} is one letter"


def faults_of_source(source: str, *, names: bool = True) -> Iterator[tuple[int, str]]:
    """Yield the line and the fault of each docstring, comment and parameter of a Python source.

    ``names`` is False for sources such as tests, whose functions have no callers.
    """
    tree = ast.parse(source)
    for node in ast.walk(tree):
        if isinstance(node, _HOLDERS) and (text := ast.get_docstring(node)) is not None:
            for fault in _faults_of_docstring(text):
                yield node.body[0].lineno, fault
    for token in tokenize.generate_tokens(iter(source.splitlines(keepends=True)).__next__):
        if token.type == tokenize.COMMENT:
            for fault in _worn(token.string):
                yield token.start[0], fault
    if names:
        yield from _faults_of_names(tree)


def faults_of_subject(subject: str) -> Iterator[str]:
    """Yield the faults of a commit's subject: too long, not imperative, or worn."""
    if len(subject) > _LONGEST_SUBJECT:
        yield f"over {_LONGEST_SUBJECT} characters: say the rest in the body"
    first = subject.split(" ", 1)[0]
    if (
        not first[:1].isupper()
        or (first.endswith(("ed", "ing")) and first not in _IMPERATIVES)
        or subject.endswith(".")
    ):
        yield "begin with a verb in the imperative, and end without a full stop"
    yield from _worn(subject)


def _git(*words: str) -> list[str]:
    done = subprocess.run(["git", *words], cwd=_REPOSITORY, capture_output=True, text=True, check=False)
    return done.stdout.splitlines() if done.returncode == 0 else []


def _main() -> int:
    """Check every tracked Python file and the latest commit.

    A release has no repository and nothing to check.
    """
    failed = 0
    for name in _git("ls-files", "--cached", "--others", "--exclude-standard", "*.py"):
        path = _REPOSITORY / name
        if "/migrations/" in name or not path.exists():
            continue
        for line, fault in sorted(faults_of_source(path.read_text(), names=name.startswith(_ROOMS_OF_NAMES))):
            print(f"{name}:{line}: {fault}")
            failed += 1
    for subject in _git("log", "-1", "--no-merges", "--format=%s"):
        for fault in faults_of_subject(subject):
            print(f"commit “{subject}”: {fault}")
            failed += 1
    print(f"{failed} faults of wording" if failed else "The wording holds.")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(_main())
