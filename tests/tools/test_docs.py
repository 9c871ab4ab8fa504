"""Files, functions and pages named in the documentation exist."""

import re
import subprocess

from django.test import SimpleTestCase
from glyptarch_launcher.paths import REPOSITORY

PAGES = (
    "docs/architecture.md",
    "docs/words.md",
    "docs/running.md",
    "docs/posts.md",
    "docs/rules.md",
    "CONTRIBUTING.md",
)
NAMED = re.compile(r"`((?:[\w.…-]+/)*[\w-]+\.(?:py|tsx?|md))(?::(\w+)(?:\.(\w+))?)?`")
LINK = re.compile(r"\]\(([^)#:]+)(?:#[^)]*)?\)")


class Documentation(SimpleTestCase):
    def setUp(self) -> None:
        listed = subprocess.run(
            ["git", "ls-files", "-co", "--exclude-standard"], cwd=REPOSITORY, capture_output=True, text=True, check=True
        )
        self.files = listed.stdout.splitlines()

    def files_named(self, name: str) -> list[str]:
        tail = name.rpartition("…/")[2]
        return [file for file in self.files if file == tail or file.endswith(f"/{tail}")]

    def test_named_files_and_functions_exist(self) -> None:
        for page in PAGES:
            for name, symbol, member in NAMED.findall((REPOSITORY / page).read_text()):
                if "KIND" in name:
                    continue
                with self.subTest(page, name=name, symbol=symbol):
                    files = self.files_named(name)
                    self.assertTrue(files, f"{page} names {name}, which does not exist")
                    texts = [(REPOSITORY / file).read_text() for file in files]
                    for word in filter(None, (symbol, member)):
                        self.assertTrue(any(re.search(rf"\b{word}\b", text) for text in texts), f"{name} has no {word}")

    def test_links_between_pages_lead_to_files(self) -> None:
        for page in [file for file in self.files if file.endswith(".md")]:
            for target in LINK.findall((REPOSITORY / page).read_text()):
                self.assertTrue(((REPOSITORY / page).parent / target).exists(), f"{page} links to {target}")
