"""The words of the messages. Nothing here reads or writes."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from zoneinfo import ZoneInfo

from glyptarch_core.causes import cause_of
from glyptarch_core.health import Health

from glyptarch_server.sources.queries import Trouble

__all__ = ["Message", "about_post", "about_posts", "about_problems", "about_runs", "daily", "trouble_words"]

_MOST_LINES = 40
_KEPT = ("publish", "hold", "draft", "private", "scheduled")


@dataclass(frozen=True, slots=True)
class Message:
    """A message ready to send."""

    subject: str
    text: str


def _message(subject: str, lines: Sequence[str], desk: str) -> Message:
    foot = f"\n\n{desk}\nChange what you are told under “Your account” there.\n" if desk else "\n"
    return Message(subject, "\n".join(lines) + foot)


def _few(lines: Sequence[str]) -> list[str]:
    left = len(lines) - _MOST_LINES
    return [*lines[:_MOST_LINES], *([f"… and {left} more."] if left > 0 else [])]


def about_problems(blog: str, new: Sequence[str], passed: Sequence[str], *, desk: str) -> Message:
    """Return the message about new and resolved problems."""
    subject = (
        new[0].partition(". ")[0].removesuffix(".")
        if len(new) == 1
        else f"{len(new)} problems"
        if new
        else "A problem has passed"
    )
    lines = _few(new)
    if passed:
        lines += ["", "These have passed:", *_few([f"- {problem}" for problem in passed])]
    return _message(f"{blog}: {subject}"[:150], lines, desk)


_SILENT = {
    Health.CHANGED: "has changed what it gives. Look whether your rules still fit.",
    Health.QUIET: "has been silent for unusually long. Look at its site whether it still publishes.",
}
_MOST_NAMED = 3


def trouble_words(trouble: Trouble, zone: ZoneInfo) -> str:
    """Return a trouble of sources in words, with its remedy.

    “12 sources at club.example do not answer since 09:10 of 24 November.”
    """
    first, number = trouble.sources[0][1], len(trouble.sources)
    if trouble.health in _SILENT:
        return f"The source “{first}” {_SILENT[trouble.health]}"
    cause = cause_of(trouble.code)
    since = f" since {trouble.since.astimezone(zone):%H:%M of %-d %B}" if trouble.since else ""
    if number == 1:
        return f"The source “{first}” {cause.one}{since}. {cause.remedy}"
    named = ", ".join(f"“{title}”" for _, title in trouble.sources[:_MOST_NAMED])
    more = f" and {number - _MOST_NAMED} more" if number > _MOST_NAMED else ""
    return f"{number} sources at {trouble.host} {cause.many}{since} ({named}{more}). {cause.remedy}"


def _run_line(name: str, verdicts: Mapping[str, int], failure: str) -> str:
    if failure:
        return f"- {name}: the run failed. {failure}"
    kept = sum(verdicts.get(verdict, 0) for verdict in _KEPT)
    held = verdicts.get("hold", 0)
    left = verdicts.get("refused", 0) + verdicts.get("duplicate", 0)
    return f"- {name}: {kept} posts, {held} of them held; {left} items refused or there already"


def about_runs(blog: str, runs: Sequence[tuple[str, Mapping[str, int], str]], *, desk: str) -> Message:
    """Return the message about runs: campaign, verdicts, and the reason of a failure."""
    lines = [_run_line(*run) for run in runs]
    return _message(f"{blog}: what {'a run' if len(runs) == 1 else f'{len(runs)} runs'} did", _few(lines), desk)


def about_post(blog: str, title: str, excerpt: str, link: str) -> Message:
    """Return the message about one new post."""
    return _message(f"{blog}: {title}", [title, "", excerpt, "", link], "")


def about_posts(blog: str, posts: Sequence[tuple[str, str]], *, desk: str) -> Message:
    """Return the message about several new posts: title and address of each."""
    return _message(f"{blog}: {len(posts)} new posts", _few([f"- {title}\n  {link}" for title, link in posts]), desk)


def daily(blog: str, posts: Sequence[tuple[str, str]], held: int, problems: Sequence[str], *, desk: str) -> Message:
    """Return the daily digest: new posts, the number of held ones, and present problems."""
    lines = [f"{len(posts)} new posts:" if posts else "No new posts."]
    lines += _few([f"- {title}\n  {link}" for title, link in posts])
    if held:
        lines += ["", f"{held} posts are held for a person."]
    if problems:
        lines += ["", "This needs somebody:", *_few([f"- {problem}" for problem in problems])]
    return _message(f"{blog}: the last day", lines, desk)
