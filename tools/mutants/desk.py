"""Mutants of the desk.

Files and tests are in ``web/src``.
"""

from typing import Final

from tools.mutants.model import Mutant

__all__ = ["DESK"]

_EDITS = "lib/edits.ts"
_MERGE = "lib/merge.ts"
_EDITING = "screens/editor/useEditing.ts"
_REVIEW_KEYS = "screens/review/useReviewKeys.ts"
_SELECTION = "screens/posts/useSelection.ts"
_BENCH = "screens/bench/useEdits.ts"

DESK: Final = (
    Mutant("typing on never joins", _EDITS, "const joined = typing !== null && ", "const joined = false && typing !== null && ", "lib/edits.test.ts"),
    Mutant("all edits join", _EDITS, " && at - typing.at < TYPING_PAUSE;", ";", "lib/edits.test.ts"),
    Mutant("an edit after undo keeps what was undone", _EDITS, "return { ...edits, past, now: next, future: [], typing:", "return { ...edits, past, now: next, typing:", "lib/edits.test.ts"),
    Mutant("undo cannot be redone", _EDITS, "now: last, future: [edits.now, ...edits.future]", "now: last, future: []", "lib/edits.test.ts"),
    Mutant("history grows without end", _EDITS, ".slice(-MOST)", "", "lib/edits.test.ts"),
    Mutant("lists of one length are the same", _EDITS, "return one.every((value, index) => same(value, other[index]));", "return true;", "lib/edits.test.ts"),
    Mutant("fewer keys are the same", _EDITS, "keys.length === Object.keys(right).length && ", "", "lib/edits.test.ts"),
    Mutant("a change of a choice is typing", "lib/changed-text.ts", '!before || !after) return [""];', "!before || !after) return [path];", "lib/edits.test.ts"),
    Mutant("what both have changed is no clash", _MERGE, "  clashes.push(path);\n  return mine;", "  return mine;", "lib/merge.test.ts"),
    Mutant("theirs is lost", _MERGE, "if (same(mine, theirs) || same(mine, base)) return theirs;", "if (same(mine, theirs)) return theirs;", "lib/merge.test.ts"),
    Mutant("words that they removed come back", _MERGE, "theirs.filter((word) => mine.includes(word) || !base.includes(word))", "theirs", "lib/merge.test.ts"),
    Mutant("my words are lost", _MERGE, "return [...kept, ...mine.filter(", "return [...kept, ...[].filter(", "lib/merge.test.ts"),
    Mutant("two rules with one id become one", _MERGE, "if (my && their && !was && !same(my, their)) {", "if (false && my && their) {", "lib/merge.test.ts"),
    Mutant("their order wins over mine", _MERGE, "const order = moved ? [...mine, ...theirs]", "const order = false ? [...mine, ...theirs]", "lib/merge.test.ts"),
    Mutant("a post's draft stays after saving", _EDITING, "    onSuccess: async (post) => {\n      dropPostDraft(person, blog, id);\n", "    onSuccess: async (post) => {\n", "screens/editor/editor.test.tsx"),
    Mutant("a post is saved from the newest version", _EDITING, "editPost(blog, id, version, changed)", "editPost(blog, id, saved.version, changed)", "screens/editor/editor.test.tsx"),
    Mutant("all values are saved, not only those changed", _EDITING, "editPost(blog, id, version, changed)", "editPost(blog, id, version, now)", "screens/editor/editor.test.tsx"),
    Mutant("what somebody else saved is not taken", _EDITING, "if (dirty || saved.version === version) return;", "return;", "screens/editor/editor.test.tsx"),
    Mutant("what is being written is overwritten", _EDITING, "if (dirty || saved.version === version) return;", "if (saved.version === version) return;", "screens/editor/editor.test.tsx"),
    Mutant("a draft of a post is not kept while typing", _EDITING, "if (keeps) keepPostDraft(", "if (false) keepPostDraft(", "screens/editor/editor.test.tsx"),
    Mutant("a draft is overwritten before anybody was asked", _EDITING, "keeps: dirty && !found, version", "keeps: dirty, version", "screens/editor/editor.test.tsx"),
    Mutant("taking theirs keeps my version", _EDITING, "    setVersion(fresh.version);\n    saving.reset();", "    saving.reset();", "screens/editor/editor.test.tsx"),
    Mutant("Ctrl+P publishes in Review", _REVIEW_KEYS, "if (event.ctrlKey || event.metaKey || event.altKey || ", "if (", "screens/review/review.test.tsx"),
    Mutant("review keys act inside a dialog", _REVIEW_KEYS, "[role=menu], [role=dialog], ", "[role=menu], ", "screens/review/review.test.tsx"),
    Mutant("review keys act while typing", _REVIEW_KEYS, '"input, textarea, select, ', '"select, ', "screens/review/review.test.tsx"),
    Mutant("a viewer publishes by key", _REVIEW_KEYS, 'p: able ? () => desk.decide("published") : undefined', 'p: () => desk.decide("published")', "screens/review/review.test.tsx"),
    Mutant("Space presses a button and marks", _REVIEW_KEYS, '" ": at?.closest("button, a") ? undefined : able', '" ": able', "screens/review/review.test.tsx"),
    Mutant("a least role is not asked for", "lib/roles.ts", "rank(role) >= rank(least)", "rank(role) >= 0", "lib/roles.test.ts"),
    Mutant("nobody may do everything", "lib/roles.ts", "return role !== undefined && rank(role)", 'return rank(role ?? "owner")', "lib/roles.test.ts"),
    Mutant("leaving is never asked about", "components/LeaveGuard.tsx", "({ currentLocation, nextLocation }) => when && ", "({ currentLocation, nextLocation }) => false && ", "screens/editor/editor.test.tsx screens/bench/bench-edits.test.tsx"),
    Mutant("closing a tab is never asked about", "components/LeaveGuard.tsx", "const ask = (event: BeforeUnloadEvent) => event.preventDefault();", "const ask = (_event: BeforeUnloadEvent) => {};", "screens/editor/editor.test.tsx screens/bench/bench-edits.test.tsx"),
    Mutant("another filter keeps what was selected", _SELECTION, "const ids = chosen.key === filterKey ? chosen.ids : new Set<number>();", "const ids = chosen.ids;", "screens/posts/posts.test.tsx"),
    Mutant("all of a filter outlives it", _SELECTION, "const all = chosen.key === filterKey && chosen.all;", "const all = chosen.all;", "screens/posts/posts.test.tsx"),
    Mutant("a range selects one post", _SELECTION, "const some = range && from >= 0 ?", "const some = false ?", "screens/posts/posts.test.tsx"),
    Mutant("an edit of the bench leaves no draft", _BENCH, "    if (!isEdited(edits)) dropDraft(person, blog, slug);\n    else\n", "    if (!isEdited(edits)) dropDraft(person, blog, slug);\n    else if (false)\n", "screens/bench/bench-edits.test.tsx"),
    Mutant("a draft of the bench is not taken up", _BENCH, "if (!draft || same(draft.now, campaign.document))", "if (true)", "screens/bench/bench-edits.test.tsx"),
    Mutant("others' rules replace my edits", _BENCH, "const mayFollow = !isEdited(before.edits) || ", "const mayFollow = true || ", "screens/bench/bench-edits.test.tsx"),
    Mutant("rules that nobody edits stay old", _BENCH, "const mayFollow = !isEdited(before.edits) || ", "const mayFollow = ", "screens/bench/bench-edits.test.tsx"),
    Mutant("the editor loses elements unnoticed", "screens/editor/fidelity.ts", "(kept.get(tag) ?? 0) < number", "(kept.get(tag) ?? 0) < 0", "screens/editor/body.test.tsx screens/editor/editor.test.tsx"),
    Mutant("the editor loses words unnoticed", "screens/editor/fidelity.ts", 'gone : [...gone, "text"]', "gone : gone", "screens/editor/body.test.tsx screens/editor/editor.test.tsx"),
    Mutant("a kept item is told as refused", "lib/proof-changes.ts", 'if (kept && !wasKept) return ["kept"];', 'if (kept && !wasKept) return ["refused"];', "lib/proof-changes.test.ts"),
)  # fmt: skip
