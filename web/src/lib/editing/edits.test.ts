import { describe, expect, it } from "vitest";
import { begin, type Edits, edit, isEdited, redo, same, undo } from "./edits";

describe("edits", () => {
  it("goes back to each state and forth again", () => {
    const edited = edit(edit(begin<unknown>(1), 2, 0), 3, 0);
    expect(undo(edited).now).toBe(2);
    expect(undo(undo(edited)).now).toBe(1);
    expect(redo(undo(edited)).now).toBe(3);
  });

  it("forgets what was undone once something else is done", () => {
    expect(redo(edit(undo(edit(begin(1), 2, 0)), 3, 0)).now).toBe(3);
  });

  const typed = (edits: Edits<{ q: string; on: boolean }>, q: string, at: number) =>
    edit(edits, { ...edits.now, q }, at);
  const begun = begin({ q: "", on: true });

  it("takes typing in one text for one edit", () => {
    const edits = typed(typed(typed(begun, "c", 0), "co", 100), "com", 900);
    expect(edits.past.length).toBe(1);
    expect(undo(edits).now.q).toBe("");
  });

  it("takes typing after a pause, or after anything else, for another edit", () => {
    const paused = typed(typed(begun, "c", 0), "co", 2000);
    expect(undo(paused).now.q).toBe("c");
    const switched = typed(edit(begun, { q: "", on: false }, 0), "c", 10);
    expect(undo(switched).now).toEqual({ q: "", on: false });
    const undone = typed(undo(typed(typed(begun, "c", 0), "co", 2000)), "cx", 2100);
    expect(undo(undone).now.q).toBe("c");
  });

  it("is not edited when it has come back to what is saved", () => {
    expect(isEdited(edit(edit(begin({ n: 1 }), { n: 2 }, 0), { n: 1 }, 0))).toBe(false);
    expect(isEdited(edit(begin({ n: 1 }), { n: 2 }, 0))).toBe(true);
  });

  it("goes back 200 states, and no further", () => {
    let edits = begin(0);
    for (let next = 1; next <= 300; next += 1) edits = edit(edits, next, 0);
    expect(edits.past.length).toBe(200);
    while (edits.past.length > 0) edits = undo(edits);
    expect(edits.now).toBe(100);
  });

  it("takes each change of a choice for one edit, however quick", () => {
    const chosen = edit(
      edit(begin({ mode: "hold" as string | null }), { mode: null }, 0),
      { mode: "publish" },
      10,
    );
    const again = edit(edit(begin<unknown>({ on: false }), { on: true }, 0), { on: false }, 10);
    expect([chosen.past.length, again.past.length]).toEqual([2, 2]);
  });

  it("does nothing where there is nothing to undo or redo", () => {
    const fresh = begin("a");
    expect(undo(fresh)).toBe(fresh);
    expect(redo(fresh)).toBe(fresh);
  });

  it("finds values equal whatever the order of their keys", () => {
    expect(same({ a: 1, b: [1, { c: null }] }, { b: [1, { c: null }], a: 1 })).toBe(true);
    for (const other of [{ a: 1 }, { a: 1, b: [1] }, { a: 1, b: { 0: 1 } }, null, "a"])
      expect(same({ a: 1, b: [1, 2] }, other)).toBe(false);
    expect(same([1, 2], [1, 3])).toBe(false);
    expect(same({ a: 1 }, { a: 1, b: 2 })).toBe(false);
  });
});
