"""``./glyptarch mutants [WORD …]``: break the server by hand, one line at a time, and see that tests fail.

Each change takes one protection away. Those whose description holds one of the words are tried,
or all. The files are put back as they were, whatever happens. Ten minutes at most.
"""

import os
import subprocess
import sys
import time
from dataclasses import dataclass
from pathlib import Path

__all__: list[str] = []

_REPOSITORY = Path(__file__).resolve().parents[1]
_SERVER = _REPOSITORY / "server" / "glyptarch_server"
_MOST_SECONDS = 600


@dataclass(frozen=True, slots=True)
class _Mutant:
    """A change that must be noticed, and the tests that are to notice it."""

    what: str
    file: str
    old: str
    new: str
    tests: str


_MUTANTS = (
    _Mutant("runs of a blog do not take turns", "runs/batches.py", "        _take_turn(campaign)\n", "", "test_turns.Turns"),
    _Mutant("a stopped run goes on writing", "runs/batches.py", "if queries.has_ended(run):", "if False:", "test_runs.Abandoned"),
    _Mutant(
        "posts of other blogs are written to",
        "runs/batches.py",
        "if blog_number == blog.pk:",
        "if blog_number:",
        "test_apart.Reach",
    ),
    _Mutant(
        "everything reaches every blog",
        "posts/memory.py",
        "rows = rows.filter(post__blog__in=self._blogs)",
        "rows = rows.all()",
        "test_apart.Reach",
    ),
    _Mutant(
        "one owner with a role there is enough",
        "blogs/queries.py",
        ".filter(number=len(owners))",
        ".filter(number__gte=1)",
        "test_apart.Reach",
    ),
    _Mutant(
        "traces show what their reader may not see",
        "runs/visibility.py",
        'return "blog" not in data or data["blog"] in blogs',
        "return True",
        "test_apart.Reach",
    ),
    _Mutant(
        "old traces show it",
        "runs/visibility.py",
        "return known.get(number) in blogs",
        "return True",
        "test_apart.Readable",
    ),
    _Mutant("strangers are members", "blogs/queries.py", "if membership is None:", "if False:", "test_api.Rights"),
    _Mutant(
        "editors may do what owners may",
        "blogs/queries.py",
        "if role is Role.OWNER and membership.role != Role.OWNER:",
        "if False:",
        "test_api.Rights",
    ),
    _Mutant(
        "private posts are shown to everybody",
        "posts/queries.py",
        "return rows if member else rows.exclude(visibility=Visibility.PRIVATE.value)",
        "return rows",
        "test_apart.Sections",
    ),
    _Mutant(
        "more of this section shows private posts",
        "front/views.py",
        "near = posts_in_lists(row, member=member)",
        "near = posts_in_lists(row, member=True)",
        "test_apart.Sections",
    ),
    _Mutant(
        "the page of what is missing shows private posts",
        "front/views.py",
        "newest = posts_in_lists(blog, member=is_member(request.user, blog))",
        "newest = posts_in_lists(blog, member=True)",
        "test_apart.Sections",
    ),
    _Mutant(
        "closed posts are in the feed",
        "front/views.py",
        "posts_in_lists(row).filter(visibility=Visibility.PUBLIC.value)",
        "posts_in_lists(row)",
        "test_apart.Sections",
    ),
    _Mutant("the feed is never the same", "front/views.py", "@conditional_page\n", "", "test_pages.Addresses"),
    _Mutant(
        "where a redirect leads is not checked",
        "adapters/fetch/client.py",
        "url = _check(urljoin(url, answer))",
        "url = urljoin(url, answer)",
        "test_fetch.Fetching",
    ),
    _Mutant(
        "any port is read",
        "adapters/fetch/guard.py",
        "(port in WEB_PORTS and _is_public(address))",
        "_is_public(address)",
        "test_fetch.PrivateAddresses",
    ),
    _Mutant("special networks are public", "adapters/fetch/guard.py", "and not special", "", "test_fetch.PrivateAddresses"),
    _Mutant(
        "waiting counts into the time of a fetch",
        "adapters/fetch/client.py",
        "            async with self._slot(url):\n                begun = time.monotonic()\n                async with asyncio.timeout(self._limits.seconds - spent):\n",
        "            begun = time.monotonic()\n            async with asyncio.timeout(self._limits.seconds - spent), self._slot(url):\n                if True:\n",
        "test_fetch.Fetching",
    ),
    _Mutant(
        "answers of any size are read",
        "adapters/fetch/client.py",
        "            if len(body) > self._limits.bytes:\n",
        "            if False:\n",
        "test_fetch.Fetching",
    ),
    _Mutant("sign-ins of a client are not counted", "accounts/actions.py", "take(_BY_CLIENT, client)", "True", "test_throttle.SignIn"),
    _Mutant(
        "sign-ins of a name are not counted",
        "accounts/actions.py",
        "take(_BY_NAME, _name_hash(name))",
        "True",
        "test_throttle.SignIn",
    ),
    _Mutant(
        "slips are not forgotten after a sign-in",
        "accounts/actions.py",
        "    clear(_BY_CLIENT_AND_NAME, client_of(request), _name_hash(name))\n",
        "",
        "test_throttle.SignIn",
    ),
    _Mutant(
        "a known browser is known for every name",
        "accounts/actions.py",
        'return mark if mark.startswith(f"{_name_hash(name)[:32]}.") else ""',
        "return mark",
        "test_throttle.SignIn",
    ),
    _Mutant(
        "X-Forwarded-For is believed from anybody",
        "common/client.py",
        "and hops and _is_trusted(address)",
        "and hops",
        "test_throttle.WhoAsks",
    ),
    _Mutant(
        "counts are read and written apart",
        "throttle/actions.py",
        "ELSE kept.count + excluded.count END",
        "ELSE excluded.count END",
        "test_throttle.Counting",
    ),
    _Mutant("pass phrases are guessed without end", "front/views.py", "if not all(counts):", "if False:", "test_throttle.Readers"),
    _Mutant("comments are not counted", "front/views.py", "            _count_comment(request, post)\n", "", "test_throttle.Readers"),
    _Mutant("the same comment is taken twice", "comments/actions.py", "if same is not None:", "if False:", "test_throttle.Readers"),
    _Mutant("NUL passes in bodies", "common/border.py", 'raise Invalid("Some', 'Invalid("Some', "test_border"),
    _Mutant("NUL passes in searches", "common/border.py", 'raise Invalid("The address', 'Invalid("The address', "test_border"),
    _Mutant("NUL passes in paths", "common/border.py", "if holds_no_text(request.path_info):", "if False:", "test_border"),
    _Mutant("any base is saved on", "campaigns/actions.py", "if latest.number != base:", "if False:", "test_turns.Turns"),
    _Mutant("two begin a run at once", "runs/actions.py", 'if queries.active_run(campaign) is not None:\n            raise Conflict(f"A run of', 'if False:\n            raise Conflict(f"A run of', "test_turns.Turns"),
    _Mutant("a removed campaign runs on", "runs/queries.py", " | Q(campaign__removed_at__isnull=False)", "", "test_runs.ARun"),
    _Mutant("an absent database fails the run", "runs/carry_out.py", "    except (OperationalError, InterfaceError):\n        raise\n    except DocumentError as error:", "    except DocumentError as error:", "test_runs.ARun"),
    _Mutant("abandoned runs are left", "runs/actions.py", "            _queue(row)\n            taken_up += 1\n", "", "test_runs.Abandoned"),
    _Mutant("stop waits for a dead worker", "runs/queries.py", 'status="doing", worker__last_heartbeat__gte=alive', 'status="doing"', "test_runs.Abandoned"),
    _Mutant("one bad item fails the run", "runs/carry_out.py", "room = decide_one_by_one(run, rows, now=now)", "raise", "test_runs.ARun"),
    _Mutant("the text of an error is shown", "runs/carry_out.py", "The server's log says what, under “run {run.pk}”.\"", '" + repr(sys.exc_info()[1])', "test_runs.ARun"),
    _Mutant("states move as they like", "posts/actions.py", "if not may_move(state, to):", "if False:", "test_runs"),
    _Mutant("aliases of YAML are built", "campaigns/yaml_form.py", "if isinstance(event, yaml.AliasEvent):", "if False:", "test_yaml"),
    _Mutant("answers of the API may be kept", "common/headers.py", 'response.headers.setdefault("Cache-Control", "no-store")', "pass", "test_pages"),
)  # fmt: skip


def _caught(mutant: _Mutant) -> bool:
    path = _SERVER / mutant.file
    sound = path.read_text()
    if sound.count(mutant.old) != 1:
        sys.exit(f"{mutant.what}: {mutant.file} holds the line {sound.count(mutant.old)} times, not once.")
    labels = [f"tests.server.{name}" for name in mutant.tests.split()]
    try:
        path.write_text(sound.replace(mutant.old, mutant.new))
        done = subprocess.run(
            [sys.executable, "-B", _REPOSITORY / "server" / "manage.py", "test", "--noinput", "--keepdb", "--failfast",
             "--top-level", _REPOSITORY, *labels],
            cwd=_REPOSITORY, env={**os.environ, "PYTHONDONTWRITEBYTECODE": "1"}, capture_output=True, check=False, timeout=180,
        )  # fmt: skip
    finally:
        path.write_text(sound)
    return done.returncode != 0


def _main(words: list[str]) -> int:
    chosen = [one for one in _MUTANTS if not words or any(word in one.what for word in words)]
    begun, survived, tried = time.monotonic(), [], 0
    for mutant in chosen:
        if time.monotonic() - begun > _MOST_SECONDS:
            break
        caught, tried = _caught(mutant), tried + 1
        print(f"{'caught  ' if caught else 'SURVIVED'}  {mutant.what}", flush=True)
        if not caught:
            survived.append(mutant.what)
    left = len(chosen) - tried
    print(f"{tried - len(survived)} of {tried} caught{f'; {left} not tried: the time is over' if left else ''}")
    return 1 if survived or left else 0


if __name__ == "__main__":
    sys.exit(_main(sys.argv[1:]))
