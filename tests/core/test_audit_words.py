"""Every action that the server writes into the audit list of a blog has words in the desk."""

import re
import unittest
from pathlib import Path

REPOSITORY = Path(__file__).resolve().parents[2]
WORDS = REPOSITORY / "web" / "src" / "lib" / "audit.ts"
SERVER = REPOSITORY / "server" / "glyptarch_server"
WRITTEN = re.compile(r'\brecord\(\s*"([a-z_]+\.[a-z_]+)"(?:\s+if\s+\w+\s+else\s+"([a-z_]+\.[a-z_]+)")?')
# These actions belong to no blog, so no list shows them.
APART = ("account.", "blog.deleted")


class AuditWords(unittest.TestCase):
    def test_each_action_is_worded(self) -> None:
        worded = set(re.findall(r'^  "([a-z_]+\.[a-z_]+)": "', WORDS.read_text(), re.MULTILINE))
        written = {
            action
            for path in SERVER.rglob("*.py")
            for pair in WRITTEN.findall(path.read_text())
            for action in pair
            if action and not action.startswith(APART)
        }
        self.assertGreater(len(written), 30)
        self.assertEqual(written - worded, set())
