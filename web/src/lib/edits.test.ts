import { describe, expect, it } from "vitest";
import { begin, edit, isEdited, redo, undo } from "./edits";

describe("edits", () => {
  it("goes back to each state and forth again", () => {
    const edited = edit(edit(begin("a"), "b"), "c");
    expect(undo(edited).now).toBe("b");
    expect(undo(undo(edited)).now).toBe("a");
    expect(redo(undo(edited)).now).toBe("c");
  });

  it("forgets what was undone once something else is done", () => {
    expect(redo(edit(undo(edit(begin("a"), "b")), "c")).now).toBe("c");
  });

  it("joins keystrokes into one edit", () => {
    const typed = edit(edit(edit(begin("a"), "ab"), "abc", true), "abcd", true);
    expect(undo(typed).now).toBe("a");
  });

  it("is not edited when it has come back to what is saved", () => {
    expect(isEdited(edit(edit(begin({ n: 1 }), { n: 2 }), { n: 1 }))).toBe(false);
    expect(isEdited(edit(begin({ n: 1 }), { n: 2 }))).toBe(true);
  });

  it("does nothing where there is nothing to undo or redo", () => {
    const fresh = begin("a");
    expect(undo(fresh)).toBe(fresh);
    expect(redo(fresh)).toBe(fresh);
  });
});
