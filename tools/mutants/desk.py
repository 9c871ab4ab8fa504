"""Mutants of the desk.

Files and tests are in ``web/src``.
"""

from typing import Final

from tools.mutants.model import Mutant

__all__ = ["DESK"]

_EDITS = "lib/editing/edits.ts"
_MERGE = "lib/editing/merge.ts"
_EDITING = "screens/editor/useEditing.ts"
_EDITED = "components/editing/useEdited.ts"
_REVIEW_KEYS = "screens/review/useReviewKeys.ts"
_SELECTION = "screens/posts/useSelection.ts"
_DOCUMENT = "lib/editing/document.ts"

DESK: Final = (
    Mutant("typing on never joins", _EDITS, "const joined = typing !== null && ", "const joined = false && typing !== null && ", "lib/editing/edits.test.ts"),
    Mutant("all edits join", _EDITS, " && at - typing.at < TYPING_PAUSE;", ";", "lib/editing/edits.test.ts"),
    Mutant("an edit after undo keeps what was undone", _EDITS, "return { ...edits, past, now: next, future: [], typing:", "return { ...edits, past, now: next, typing:", "lib/editing/edits.test.ts"),
    Mutant("undo cannot be redone", _EDITS, "now: last, future: [edits.now, ...edits.future]", "now: last, future: []", "lib/editing/edits.test.ts"),
    Mutant("history grows without end", _EDITS, ".slice(-MOST)", "", "lib/editing/edits.test.ts"),
    Mutant("lists of one length are the same", _EDITS, "return one.every((value, index) => same(value, other[index]));", "return true;", "lib/editing/edits.test.ts"),
    Mutant("fewer keys are the same", _EDITS, "keys.length === Object.keys(right).length && ", "", "lib/editing/edits.test.ts"),
    Mutant("a change of a choice is typing", "lib/changed-text.ts", '!before || !after) return [""];', "!before || !after) return [path];", "lib/editing/edits.test.ts"),
    Mutant("what both have changed is no clash", _MERGE, "  clashes.push(path);\n  return mine;", "  return mine;", "lib/editing/merge.test.ts"),
    Mutant("theirs is lost", _MERGE, "if (same(mine, theirs) || same(mine, base)) return theirs;", "if (same(mine, theirs)) return theirs;", "lib/editing/merge.test.ts"),
    Mutant("words that they removed come back", _MERGE, "theirs.filter((word) => mine.includes(word) || !base.includes(word))", "theirs", "lib/editing/merge.test.ts"),
    Mutant("my words are lost", _MERGE, "return [...kept, ...mine.filter(", "return [...kept, ...[].filter(", "lib/editing/merge.test.ts"),
    Mutant("two rules with one id become one", _MERGE, "if (my && their && !was && !same(my, their)) {", "if (false && my && their) {", "lib/editing/merge.test.ts"),
    Mutant("their order wins over mine", _MERGE, "const order = moved ? [...mine, ...theirs]", "const order = false ? [...mine, ...theirs]", "lib/editing/merge.test.ts"),
    Mutant("a post is saved from the newest version", _EDITED, "const { begun, edits: sent } = editing.current;", "const { edits: sent, latest: { number: begun } } = editing.current;", "screens/editor/editor.test.tsx"),
    Mutant("all values are saved, not only those changed", _EDITING, "editPost(blog, id, begun, changed)", "editPost(blog, id, begun, values)", "screens/editor/editor.test.tsx"),
    Mutant("a draft is touched before it was found", _EDITED, "if (!asked.current) return;", "", "screens/editor/editor.test.tsx"),
    Mutant("a draft stays after saving", _EDITED, "} else if (wrote.current) {", "} else if (false) {", "screens/editor/editor.test.tsx"),
    Mutant("an edit leaves no draft", _EDITED, "if (isChanged(current)) {\n      wrote", "if (false) {\n      wrote", "screens/editor/editor.test.tsx screens/bench/bench-edits.test.tsx"),
    Mutant("a draft is not taken up", _EDITED, "apply((now) => takeUp(now, draft));", "", "screens/editor/editor.test.tsx screens/bench/bench-edits.test.tsx"),
    Mutant("what is typed while a save is under way is lost", _DOCUMENT, "const now = merge(sent, edits.now, saved.value).document;", "const now = saved.value;", "lib/editing/document.test.ts"),
    Mutant("what somebody else saved is not taken", _DOCUMENT, "if (!isChanged(editing) || same(edits.now, latest.value)) return open(latest);", "", "lib/editing/document.test.ts"),
    Mutant("what is being written is overwritten", _DOCUMENT, "if (!isChanged(editing) || same(edits.now, latest.value)) return open(latest);", "if (edits.past) return open(latest);", "lib/editing/document.test.ts"),
    Mutant("an older answer replaces a newer one", _DOCUMENT, "latest.number < editing.latest.number || ", "", "lib/editing/document.test.ts"),
    Mutant("giving up cannot be undone after typing", _DOCUMENT, "edit({ ...edits, typing: null }, next, 0)", "edit(edits, next, 0)", "lib/editing/document.test.ts"),
    Mutant("a lost network is not tried again", _EDITED, 'window.addEventListener("online", again);', "", "screens/editor/editor.test.tsx"),
    Mutant("a second save while one is under way is forgotten", _EDITED, "if (isChanged(editing.current)) return save();", "", "screens/editor/editor.test.tsx"),
    Mutant("two guards on a screen both ask", "components/LeaveGuard.tsx", "when && first === id ?", "when ?", "components/leave-guard.test.tsx"),
    Mutant("what another saved of another part is a conflict", _DOCUMENT, "return same(edits.saved, latest.value) ? { ...followed, begun: latest.number } : followed;", "return followed;", "lib/editing/document.test.ts"),
    Mutant("a secret lies in a draft", _EDITED, "forDisk ? { ...draft, now: forDisk(draft.now) } : draft", "draft", "screens/platforms/platforms.test.tsx"),
    Mutant("a dialog closes on edits without a question", "ui/Dialog.tsx", "if (!next && unsaved) setAsking(true);\n    else onOpenChange(next);", "onOpenChange(next);", "screens/schedule/schedule.test.tsx"),
    Mutant("a second click takes an example away", "screens/pages/useReader.ts", "let nextExamples = single ? [place] : [...others(examples), place];", "let nextExamples = single ? [place] : others(examples);", "screens/pages/pointing.test.tsx"),
    Mutant("Ctrl+P publishes in Review", _REVIEW_KEYS, "if (event.ctrlKey || event.metaKey || event.altKey || ", "if (", "screens/review/review.test.tsx"),
    Mutant("review keys act inside a dialog", _REVIEW_KEYS, "[role=menu], [role=dialog], ", "[role=menu], ", "screens/review/review.test.tsx"),
    Mutant("review keys act while typing", _REVIEW_KEYS, '"input, textarea, select, ', '"select, ', "screens/review/review.test.tsx"),
    Mutant("a viewer publishes by key", _REVIEW_KEYS, 'p: decide(() => review.decide("published"))', 'p: () => review.decide("published")', "screens/review/review.test.tsx"),
    Mutant("Space presses a button and marks", _REVIEW_KEYS, '" ": at?.closest("button, a") ? undefined : may', '" ": may', "screens/review/review.test.tsx"),
    Mutant("a least role is not asked for", "lib/roles.ts", "rank(role) >= rank(least)", "rank(role) >= 0", "lib/roles.test.ts"),
    Mutant("nobody may do everything", "lib/roles.ts", "return role !== undefined && rank(role)", 'return rank(role ?? "owner")', "lib/roles.test.ts"),
    Mutant("leaving is never asked about", "components/LeaveQuestion.tsx", "({ currentLocation, nextLocation }) => ", "({ currentLocation, nextLocation }) => false && ", "screens/editor/editor.test.tsx screens/bench/bench-edits.test.tsx"),
    Mutant("closing a tab is never asked about", "components/LeaveQuestion.tsx", "const ask = (event: BeforeUnloadEvent) => event.preventDefault();", "const ask = (_event: BeforeUnloadEvent) => {};", "screens/editor/editor.test.tsx screens/bench/bench-edits.test.tsx"),
    Mutant("another filter keeps what was selected", _SELECTION, "const ids = chosen.key === filterKey ? chosen.ids : new Set<number>();", "const ids = chosen.ids;", "screens/posts/posts.test.tsx"),
    Mutant("all of a filter outlives it", _SELECTION, "const all = chosen.key === filterKey && chosen.all;", "const all = chosen.all;", "screens/posts/posts.test.tsx"),
    Mutant("a range selects one post", _SELECTION, "const some = range && from >= 0 ?", "const some = false ?", "screens/posts/posts.test.tsx"),
    Mutant("the editor loses elements unnoticed", "screens/editor/fidelity.ts", "(kept.get(tag) ?? 0) < number", "(kept.get(tag) ?? 0) < 0", "screens/editor/body.test.tsx screens/editor/editor.test.tsx"),
    Mutant("the editor loses words unnoticed", "screens/editor/fidelity.ts", 'gone : [...gone, "text"]', "gone : gone", "screens/editor/body.test.tsx screens/editor/editor.test.tsx"),
    Mutant("a kept item is told as refused", "lib/proof-changes.ts", 'if (kept && !wasKept) return ["kept"];', 'if (kept && !wasKept) return ["refused"];', "lib/proof-changes.test.ts"),
)  # fmt: skip
