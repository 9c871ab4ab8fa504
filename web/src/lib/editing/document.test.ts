import { describe, expect, it } from "vitest";
import {
  arrived,
  change,
  type Draft,
  draftOf,
  type Editing,
  failed,
  giveUp,
  goBack,
  goForth,
  heard,
  isChanged,
  isOvertaken,
  keepMine,
  open,
  putOnTop,
  send,
  takeTheirs,
  takeUp,
  type Version,
} from "./document";

interface Note {
  title: string;
  text: string;
  pinned: boolean;
}

const NOTE: Note = { title: "Moon", text: "", pinned: false };
const begun = open({ number: 1, value: NOTE });
let now = 0;
/** An edit long after the one before, so that none are joined. */
const set = (editing: Editing<Note>, values: Partial<Note>) => {
  now += 10_000;
  return change(editing, { ...editing.edits.now, ...values }, now);
};
const saved = (number: number, values: Partial<Note>) => ({ number, value: { ...NOTE, ...values } });

describe("a document being edited", () => {
  it("takes back and brings again each edit, also of a choice", () => {
    const edited = set(set(begun, { title: "Comet" }), { pinned: true });
    expect(goBack(edited).edits.now).toEqual({ ...NOTE, title: "Comet" });
    expect(goForth(goBack(edited)).edits.now).toEqual(edited.edits.now);
    expect(goBack(begun)).toBe(begun);
    expect(goForth(begun)).toBe(begun);
  });

  it("keeps what was typed while it was sent, on top of the form that the server gave it", () => {
    const sent = send(set(begun, { text: " wide " }));
    const typed = set(sent, { title: "Comet" });
    const after = arrived(typed, saved(2, { text: "wide" }));
    expect(after.edits.now).toEqual({ title: "Comet", text: "wide", pinned: false });
    expect([after.begun, isChanged(after), after.sending]).toEqual([2, true, null]);
    expect(isChanged(arrived(sent, saved(2, { text: "wide" })))).toBe(false);
  });

  it("keeps everything where the save failed", () => {
    const edited = set(begun, { title: "Comet" });
    expect(failed(send(edited))).toEqual(edited);
  });

  it("follows the server while nothing is edited, and never an older answer", () => {
    const followed = heard(begun, saved(3, { title: "Comet" }));
    expect([followed.begun, followed.edits.now.title, isChanged(followed)]).toEqual([3, "Comet", false]);
    expect(heard(followed, saved(2, { title: "Old" }))).toBe(followed);
    expect(heard(followed, saved(3, { title: "Comet" }))).toBe(followed);
  });

  it("takes the server's form of its own version under the edits", () => {
    const edited = heard(set(begun, { text: "Wide" }), saved(1, { title: "The moon" }));
    expect(edited.edits.now).toEqual({ title: "The moon", text: "Wide", pinned: false });
    expect([edited.begun, isOvertaken(edited)]).toEqual([1, false]);
  });

  it("is overtaken where somebody else has saved, until the person has answered", () => {
    const overtaken = heard(set(begun, { text: "Wide" }), saved(2, { title: "Comet" }));
    expect([isOvertaken(overtaken), overtaken.begun, overtaken.edits.now.title]).toEqual([true, 1, "Moon"]);
    const top = putOnTop(overtaken);
    expect([top.edits.now, top.begun, top.clashes]).toEqual([
      { title: "Comet", text: "Wide", pinned: false },
      2,
      [],
    ]);
    const theirs = takeTheirs(overtaken);
    expect([theirs.edits.now.text, isChanged(theirs), goBack(theirs).edits.now.text]).toEqual([
      "",
      false,
      "Wide",
    ]);
    const mine = keepMine(overtaken);
    expect([mine.edits.now, mine.begun, isOvertaken(mine)]).toEqual([overtaken.edits.now, 2, false]);
  });

  it("goes on where somebody has saved another part than the one edited here", () => {
    const edited = heard(set(begun, { text: "Wide" }), saved(2, {}));
    expect([edited.begun, isOvertaken(edited), edited.edits.now.text]).toEqual([2, false, "Wide"]);
  });

  it("names what both have changed", () => {
    const overtaken = heard(set(begun, { title: "Mars" }), saved(2, { title: "Comet" }));
    expect(putOnTop(overtaken)).toMatchObject({ clashes: ["title"], edits: { now: { title: "Mars" } } });
  });

  it("is not overtaken by its own save", () => {
    const sending = heard(send(set(begun, { text: "Wide" })), saved(2, { text: "Wide" }));
    expect([isOvertaken(sending), sending.sending]).toEqual([false, { ...NOTE, text: "Wide" }]);
    expect(isOvertaken(arrived(sending, saved(2, { text: "Wide" })))).toBe(false);
  });

  it("gives up all edits as one, even those just typed", () => {
    const typed = change(begun, { ...NOTE, title: "Moon!" }, 0);
    const none = giveUp(typed);
    expect([isChanged(none), goBack(none).edits.now.title]).toEqual([false, "Moon!"]);
    expect(change(none, { ...NOTE, title: "M" }, 1).edits.past.length).toBe(none.edits.past.length + 1);
  });

  it("takes up an earlier draft under what was typed since, and says that it is of an earlier version", () => {
    const draft: Draft<Note> = {
      begun: 1,
      saved: NOTE,
      now: { ...NOTE, text: "Left" },
      at: "2026-11-24T12:00:00Z",
    };
    const later = set(open(saved(2, { title: "Comet" })), { pinned: true });
    const taken = takeUp(later, draft);
    expect(taken.edits.now).toMatchObject({ text: "Left", pinned: true });
    expect([taken.restored, isOvertaken(taken), taken.begun]).toEqual([draft.at, true, 1]);
    expect(goBack(takeUp(begun, draft)).edits.now).toEqual(NOTE);
    expect(takeUp(open(saved(1, { text: "Left" })), draft).restored).toBeNull();
  });
});

/** A random number generator with a seed (mulberry32), so that a failure can be repeated. */
function random(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

type Words = Record<string, string[]>;

/** A tab with the document open, and what is on its way from it. */
interface Tab {
  editing: Editing<Words>;
  sent: { value: Words; begun: number } | null;
}

/**
 * Two tabs, a server and a disk. Every step is one that happens to people: typing, undoing, saving with a slow answer, a
 * lost network, another tab's save, a killed browser.
 */
class World {
  server: Version<Words> = { number: 1, value: { one: [], two: [], three: [] } };
  disk: (Draft<Words> | null)[] = [null, null];
  tabs: Tab[] = [0, 1].map(() => ({ editing: open(this.server), sent: null }));
  typed: string[] = [];
  next: () => number;

  constructor(seed: number) {
    this.next = random(seed);
  }

  step() {
    const place = Math.floor(this.next() * 2);
    const tab = this.tabs[place] as Tab;
    const steps = [
      this.type,
      this.type,
      this.type,
      this.undoRedo,
      this.save,
      this.answer,
      this.lose,
      this.loseAnswer,
      this.hear,
      this.kill,
    ];
    const work = steps[Math.floor(this.next() * steps.length)] as (tab: Tab, place: number) => void;
    work.call(this, tab, place);
    // A draft is kept after each edit.
    const { editing } = this.tabs[place] as Tab;
    this.disk[place] = isChanged(editing) ? draftOf(editing, "2026-11-24T12:00:00Z") : null;
  }

  type(tab: Tab) {
    const key = ["one", "two", "three"][Math.floor(this.next() * 3)] as string;
    const word = `w${this.typed.length}`;
    this.typed.push(word);
    const { now } = tab.editing.edits;
    tab.editing = change(
      tab.editing,
      { ...now, [key]: [...(now[key] ?? []), word] },
      this.typed.length * 10_000,
    );
  }

  undoRedo(tab: Tab) {
    const back = goBack(tab.editing);
    expect(goForth(back).edits.now).toEqual(tab.editing.edits.now);
    tab.editing = goForth(back);
  }

  save(tab: Tab) {
    if (tab.sent || !isChanged(tab.editing)) return;
    if (isOvertaken(tab.editing)) {
      tab.editing = putOnTop(tab.editing);
      return;
    }
    tab.editing = send(tab.editing);
    tab.sent = { value: tab.editing.edits.now, begun: tab.editing.begun };
  }

  answer(tab: Tab) {
    if (!tab.sent) return;
    const { value, begun } = tab.sent;
    tab.sent = null;
    if (begun !== this.server.number) tab.editing = heard(failed(tab.editing), this.server);
    else {
      this.server = { number: begun + 1, value };
      tab.editing = arrived(tab.editing, this.server);
    }
  }

  lose(tab: Tab) {
    if (!tab.sent) return;
    tab.sent = null;
    tab.editing = failed(tab.editing);
  }

  /** The server has saved, and its answer is lost. */
  loseAnswer(tab: Tab) {
    if (!tab.sent) return;
    const { value, begun } = tab.sent;
    if (begun === this.server.number) this.server = { number: begun + 1, value };
    this.lose(tab);
  }

  hear(tab: Tab) {
    tab.editing = heard(tab.editing, this.server);
  }

  kill(tab: Tab, place: number) {
    const draft = this.disk[place];
    tab.sent = null;
    tab.editing = draft ? takeUp(open(this.server), draft) : open(this.server);
  }

  /** Both tabs save what they have, as often as it takes. */
  settle() {
    for (let round = 0; round < 6; round += 1)
      for (const tab of this.tabs) {
        this.answer(tab);
        this.hear(tab);
        this.save(tab);
        this.save(tab);
        this.answer(tab);
      }
  }
}

describe("a random walk of 200 steps over two tabs", () => {
  it.each(Array.from({ length: 60 }, (_, seed) => seed + 1))(
    "loses and doubles nothing (seed %i)",
    (seed) => {
      const world = new World(seed);
      for (let count = 0; count < 200; count += 1) world.step();
      world.settle();
      const there = Object.values(world.server.value).flat();
      expect([...there].sort()).toEqual([...world.typed].sort());
      for (const tab of world.tabs) expect(isChanged(tab.editing)).toBe(false);
    },
  );
});
