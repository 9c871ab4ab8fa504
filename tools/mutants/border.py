"""Mutants of the server's protections.

Files are in ``server/glyptarch_server``, tests in ``tests/server``.
"""

from typing import Final

from tools.mutants.model import Mutant

__all__ = ["BORDER"]

BORDER: Final = (
    Mutant("the token of a deactivated person works", "accounts/tokens.py", ", user__is_active=True", "", "test_people"),
    Mutant(
        "any signed state of the connection is taken",
        "platforms/signing_in.py",
        '    if not secrets.compare_digest(fields.get("state", ""), state) or not code:\n',
        "    if not code:\n",
        "test_platforms",
    ),
    Mutant("a state does not grow old", "platforms/signing_in.py", ", max_age=_SECONDS_TO_SIGN_IN", "", "test_platforms"),
    Mutant("tokens outlive a changed client", "platforms/access.py", "if all(kept[name] == stored.get(name) for name in kept):", "if True:", "test_platforms"),
    Mutant(
        "a connection that must wait is asked",
        "platforms/actions.py",
        "if row.waits_until is not None and row.waits_until > now:",
        "if False:",
        "test_platforms",
    ),
    Mutant(
        "a hub refuses another topic",
        "websub/actions.py",
        """    if topic != row.topic:
        return False
    with transaction.atomic():
        said =""",
        """    with transaction.atomic():
        said =""",
        "test_websub",
    ),
    Mutant(
        "a takedown is lifted without a record",
        "posts/takedown.py",
        '        record("takedown.lifted", row.subject, blog=row.blog_id)',
        "        pass",
        "test_withdrawn",
    ),
    Mutant(
        "tokens outlive a changed password",
        "accounts/actions.py",
        '''        user.api_tokens.all().delete()
        record("account.password_changed"''',
        '''        record("account.password_changed"''',
        "test_people",
    ),
    Mutant(
        "tokens outlive the other sessions",
        "accounts/actions.py",
        '''        user.api_tokens.all().delete()
        record("account.sessions_ended"''',
        '''        record("account.sessions_ended"''',
        "test_people",
    ),
    Mutant(
        "membership is asked only by the handler",
        "config/api.py",
        "        require_membership(request.user, str(slug))\n",
        "        pass\n",
        "test_api",
    ),
    Mutant(
        "reading is limited by the clock alone",
        "adapters/apart.py",
        "resource.RLIMIT_CPU, (math.ceil(used.ru_utime + used.ru_stime + seconds), resource.RLIM_INFINITY)",
        "resource.RLIMIT_CPU, (resource.RLIM_INFINITY, resource.RLIM_INFINITY)",
        "test_costly",
    ),
    Mutant(
        "a withdrawn source is read",
        "sources/readings.py",
        "for source in sources]), paused=False, blocked_at=None)\n\n\ndef due",
        "for source in sources]), paused=False)\n\n\ndef due",
        "test_withdrawn",
    ),
    Mutant(
        "a source that was withdrawn meanwhile is read",
        "sources/asking.py",
        "paused=False, blocked_at=None, removed_at=None, blog__removed_at=None)",
        "paused=False, removed_at=None, blog__removed_at=None)",
        "test_reader",
    ),
    Mutant("a paused source is pushed", "websub/actions.py", " or source.paused:", ":", "test_websub"),
    Mutant("a body of any size is taken", "common/intake.py", "if self.taken > self.limit:", "if False:", "test_intake"),
    Mutant(
        "a body may come as slowly as it likes",
        "common/intake.py",
        "asyncio.timeout(max(0.0, until - time.monotonic()))",
        "asyncio.timeout(None)",
        "test_intake",
    ),
    Mutant("heads are waited for without end", "config/web_server.py", "self.loop.call_later(_SECONDS_FOR_HEAD, self._close)", "self.loop.call_later(3600, self._close)", "test_intake"),
    Mutant("a token of any size is kept", "platforms/signing_in.py", " and 0 < len(token) <= _LONGEST_TOKEN:", ":", "test_platforms"),
    Mutant(
        "another media folder is used",
        "media/files.py",
        "if mark or not (_is_unused() or (is_new and _holds_one(folder))):",
        "if False:",
        "test_media_folder",
    ),
    Mutant("a backup lacks files", "config/backup.py", "    if missing:\n", "    if False:\n", "test_backup.Backups"),
    Mutant("rows are counted apart from the dump", "config/backup.py", ', f"--snapshot={snapshot}"', "", "test_backup.Meanwhile"),
    Mutant("a job is put on the worker's own connection", "common/queue.py", "return App(connector=DjangoConnector())", "return app", "test_queue"),
    Mutant("any number wait for a turn", "common/turns.py", "self._waiting >= self._may_wait", "False", "test_busy"),
    Mutant(
        "readers and desk share a lane",
        "common/turns.py",
        "(readers if request.path.startswith(_READERS) else desk).turn()",
        "desk.turn()",
        "test_busy",
    ),
    Mutant("a turn is kept after the request", "common/turns.py", "            self._turns.release()\n", "            pass\n", "test_busy"),
    Mutant("probes wait", "common/turns.py", "if request.path.startswith(_PROBES):", "if False:", "test_busy"),
    Mutant("pages ask robots of no address", "pages/fetching.py", '    except ValueError:\n        return ""\n', '    except KeyError:\n        return ""\n', "test_pages"),
    Mutant(
        "each process has two connections to a host",
        "wiring.py",
        ", hosts=hosts, contact",
        ", contact",
        "test_hosts",
    ),
    Mutant("any number of connections to a host", "throttle/hosts.py", "_AT_ONCE = 2", "_AT_ONCE = 4", "test_hosts"),
    Mutant(
        "a turn is taken although another process has it",
        "throttle/hosts.py",
        "WHERE kept.ends_at <= clock_timestamp()\n",
        "",
        "test_hosts",
    ),
    Mutant("others' turns are given back", "throttle/hosts.py", "    WHERE held.holder = %(holder)s\n", "", "test_hosts"),
    Mutant(
        "turns of a fetch that was given up stay taken",
        "adapters/fetch/host_turns.py",
        "*(EndedTurn(key, 0.0) for key in self._held)",
        "",
        "test_hosts",
    ),
)  # fmt: skip
