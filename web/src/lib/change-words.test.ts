import { describe, expect, it } from "vitest";
import type { PostChange } from "@/api/posts";
import { changeState, changeWords } from "./change-words";

const CHANGE: PostChange = {
  id: 1,
  action: "moved",
  to: "refused",
  subject: "",
  by: "Mira",
  at: "2026-11-24T12:00:00Z",
  state: "done",
  posts: 12,
  done: 12,
  changed: 12,
  taken_back: false,
  taken_back_by: null,
};

describe("what was done to posts", () => {
  it("is said with how many, or with the title of the only one", () => {
    expect(changeWords(CHANGE)).toBe("refused 12 posts");
    expect(changeWords({ ...CHANGE, changed: 10 })).toBe("refused 10 posts");
    expect(changeWords({ ...CHANGE, state: "running", changed: 3 })).toBe("refused 12 posts");
    expect(changeWords({ ...CHANGE, posts: 1, subject: "A comet", to: "published" })).toBe(
      "published “A comet”",
    );
    expect(changeWords({ ...CHANGE, action: "binned", to: "" })).toBe("put into the bin 12 posts");
    expect(changeWords({ ...CHANGE, action: "moved", to: "" })).toBe("decided about 12 posts");
  });

  it("is said with how far it is, and what was left alone", () => {
    expect(changeState(CHANGE)).toBe("");
    expect(changeState({ ...CHANGE, state: "running", done: 3 })).toBe("3 of 12");
    expect(changeState({ ...CHANGE, changed: 10 })).toBe("2 left as they were");
    expect(changeState({ ...CHANGE, changed: 11 })).toBe("1 left as it was");
    expect(changeState({ ...CHANGE, state: "stopped", changed: 4 })).toBe("stopped after 4");
    expect(changeState({ ...CHANGE, taken_back: true })).toBe("taken back");
  });
});
