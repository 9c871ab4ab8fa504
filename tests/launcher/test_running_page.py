"""docs/running.md followed word for word, from an empty folder to a restored backup.

Changes of the machine are redirected: folders are temporary, the databases are on the tests' server, and no user is
created. Everything else runs as written.
"""

import os
import re
import signal
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path

from django.db import connection
from django.test import SimpleTestCase
from glyptarch_launcher.paths import REPOSITORY, VAR
from glyptarch_launcher.ports import free_port

PAGE = (REPOSITORY / "docs" / "running.md").read_text()
USER = "runuser -u glyptarch -- env HOME=/var/lib/glyptarch bash"
NAME = "glyptarch_page"
PASSWORD = "as in the page"  # noqa: S105 - of a database that lives for one test
ELSEWHERE = ("useradd ", "sudo -u postgres ", "editor ")
"""Begins of lines that the test does in another way."""


def commands(heading: str) -> list[list[str]]:
    """Return the commands under a heading, by the steps there."""
    part = PAGE.split(f"## {heading}\n", 1)[1].split("\n## ", 1)[0]
    steps = re.split(r"^\d\. ", part, flags=re.MULTILINE)
    return [re.findall(r"^ {4,}(\S.*)$", step, re.MULTILINE) for step in steps]


class RunningPage(SimpleTestCase):
    databases = frozenset({"default"})

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        (self.folder / "etc").mkdir()
        kept = {name: value for name, value in os.environ.items() if not re.match("GLYPTARCH|DJANGO|PYTHON|PG", name)}
        self.env = {**kept, "UV_CACHE_DIR": str(VAR / "uv-cache")}

    def database(self, name: str) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS {name}")
            cursor.execute(f"CREATE DATABASE {name} OWNER {NAME}")
        self.addCleanup(self.drop, f"DROP DATABASE IF EXISTS {name} WITH (FORCE)")

    def drop(self, statement: str) -> None:
        with connection.cursor() as cursor:
            cursor.execute(statement)

    def moved(self, line: str) -> str:
        for place in ("/var/lib/glyptarch", "/var/backups/glyptarch", "/opt/glyptarch", "/etc/glyptarch.env"):
            line = line.replace(place, f"{self.folder}{place}")
        line = line.replace("/var/release/", f"{VAR}/release/") if line.startswith("/") else line
        return re.sub(r" -[og] glyptarch\b", "", line).replace("tar xf var/release/", f"tar xf {VAR}/release/")

    def run_all(self, lines: list[str], *, cwd: Path = REPOSITORY, typed: str = "") -> str:
        done = subprocess.run(
            ["bash", "-ec", "\n".join(map(self.moved, lines))], input=typed, cwd=cwd, env=self.env,
            capture_output=True, text=True, check=False, timeout=300,
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, (lines, done.stdout[-2000:], done.stderr[-2000:]))
        return done.stdout

    def fill_in(self, name: str) -> None:
        """Fill in the settings as the comments of the file say, for a database of the tests' server."""
        path = self.folder / "etc" / "glyptarch.env"
        text, made = path.read_text(), connection.settings_dict
        for setting, command in (
            ("SECRET_KEY", "openssl rand -base64 48"),
            ("ENCRYPTION_KEYS", "openssl rand -base64 32 | tr '+/' '-_'"),
        ):
            self.assertIn(f"Make one with: {command}\n", text)
            key = self.run_all([command]).strip().replace("\n", "")
            text = text.replace(f"GLYPTARCH_{setting}=\n", f"GLYPTARCH_{setting}={key}\n")
        text = text.replace("#GLYPTARCH_MAIL_FROM", "GLYPTARCH_MAIL_FROM").replace("/var/lib", f"{self.folder}/var/lib")
        for setting, value in {
            "HOST": made["HOST"], "PORT": made["PORT"], "NAME": name, "USER": NAME, "PASSWORD": f'"{PASSWORD}"',
        }.items():  # fmt: skip
            text = re.sub(rf"(?m)^GLYPTARCH_DB_{setting}=.*$", f"GLYPTARCH_DB_{setting}={value}", text)
        path.write_text(text)

    def test_what_it_says_leads_to_a_server_that_answers(self) -> None:
        with connection.cursor() as cursor:
            cursor.execute(f"DROP ROLE IF EXISTS {NAME}")
            cursor.execute(f"CREATE ROLE {NAME} LOGIN PASSWORD '{PASSWORD}'")
        self.addCleanup(self.drop, f"DROP ROLE IF EXISTS {NAME}")
        for name in (NAME, f"{NAME}_restored"):
            self.database(name)
        version = re.search(
            r'VERSION = "([^"]+)"', (REPOSITORY / "server/glyptarch_server/common/version.py").read_text()
        )
        assert version
        steps = [[line.replace("VERSION", version[1]) for line in lines] for lines in commands("Set up")]
        said = [line for lines in steps for line in lines]
        self.assertEqual({start for start in ELSEWHERE for line in said if line.startswith(start)}, set(ELSEWHERE))
        as_root = [line for lines in steps[:5] for line in lines if not line.startswith(ELSEWHERE)]
        self.run_all(as_root)
        self.fill_in(NAME)
        unpacked = self.files()

        step = [line for lines in steps[5:] for line in lines]
        self.assertEqual((step[0], step[-1]), (USER, "./glyptarch serve"))
        told = self.run_all(step[1:-1], cwd=self.folder, typed="a long password\n" * 2)
        self.assertIn("mira", told)
        self.assertEqual(self.answers([*step[1:3], f"exec {step[-1]}"]), (200, 200))

        backup, restore = commands("Backup and restore")[0]
        self.run_all([*step[1:4], backup])
        text = (self.folder / "etc" / "glyptarch.env").read_text()
        (self.folder / "etc" / "glyptarch.env").write_text(text.replace(f"NAME={NAME}\n", f"NAME={NAME}_restored\n"))
        self.run_all([*step[1:4], restore])
        self.assertEqual(self.files(), unpacked, "the server wrote into the folder of the release")

    def files(self) -> list[str]:
        """Return the names of all files in the folder that the release was unpacked to."""
        top = self.folder / "opt" / "glyptarch"
        return sorted(str(path.relative_to(top)) for path in top.rglob("*") if path.is_file())

    def answers(self, lines: list[str]) -> tuple[int, int]:
        """Start the server.

        Return the statuses of the readiness probe and of the desk behind a proxy.
        """
        port = free_port()
        script = "\n".join([*map(self.moved, lines)]) + f" --port {port}\n"
        with tempfile.TemporaryFile() as output:
            server = subprocess.Popen(["bash", "-ec", script], env=self.env, stdout=output, stderr=output)
            try:
                end = time.monotonic() + 60
                while (ready := self.status(port, "/health/ready")) != 200 and time.monotonic() < end:
                    time.sleep(0.2)
                return ready, self.status(port, "/", {"Host": "desk.example.org", "X-Forwarded-Proto": "https"})
            finally:
                server.send_signal(signal.SIGTERM)
                self.assertEqual(server.wait(30), 0)

    def status(self, port: int, path: str, headers: dict[str, str] | None = None) -> int:
        request = urllib.request.Request(f"http://127.0.0.1:{port}{path}", headers=headers or {})
        try:
            with urllib.request.urlopen(request, timeout=5) as answer:  # noqa: S310 - of this machine
                return int(answer.status)
        except urllib.error.HTTPError as error:
            return error.code
        except OSError:
            return 0
