"""Messages of the launcher are clear and have the remedy."""

import subprocess
import sys
import threading
import time

from django.test import SimpleTestCase
from glyptarch_launcher import say as saying
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_launcher.say import GiveUpError, end_commands, run


class Messages(SimpleTestCase):
    def test_a_failing_command_shows_its_last_lines_and_the_remedy(self) -> None:
        with self.assertRaisesRegex(GiveUpError, r"Trying failed:\n    oh no\n  Do this\."):
            run([sys.executable, "-c", "print('oh no'); raise SystemExit(3)"], what="Trying", remedy="Do this.")

    def test_a_missing_program_is_named(self) -> None:
        with self.assertRaisesRegex(GiveUpError, "no program no-such-program"):
            run(["no-such-program"], what="Trying", remedy="Install it.")

    def test_the_command_line_explains_itself(self) -> None:
        done = subprocess.run([REPOSITORY / "glyptarch", "demo", "--help"], capture_output=True, text=True, check=True)
        self.assertIn("--fresh", done.stdout)


class BrokenOff(SimpleTestCase):
    def setUp(self) -> None:
        self.addCleanup(saying._ending.clear)

    def test_a_command_that_runs_is_ended_and_says_how_to_go_on(self) -> None:
        faults: list[GiveUpError] = []

        def install() -> None:
            try:
                run([sys.executable, "-c", "import time; time.sleep(60)"], what="Installing", remedy="")
            except GiveUpError as error:
                faults.append(error)

        thread = threading.Thread(target=install)
        thread.start()
        while not saying._running:
            time.sleep(0.01)
        end_commands()
        thread.join(10)
        self.assertIn("Installing was broken off.\n  Run the same command again", str(faults[0]))
