import type { Stage } from "@/api/proofs";
import { moment } from "../format";
import { type Data, list, number, text, type Wordings } from "./data";
import { STAGE_NAMES } from "./names";

function rightWords(data: Data): string {
  return data.right === "full" ? "full text" : `an excerpt of ${number(data, "limit")} words`;
}

function copied(data: Data): string {
  const what = [data.pictures && "pictures", data.recordings && "films and sound"].filter(Boolean);
  return `${what.join(", ")} are`;
}

/** Release. */
export const RELEASE: Wordings = {
  "rights.kept": ({ data }) => ({ strong: "", rest: `the source allows ${rightWords(data)}` }),
  "rights.cut": ({ data }) => ({
    strong: "cut to what the source allows",
    rest: `${rightWords(data)}, it had ${number(data, "words")}`,
  }),
  "rights.link": () => ({ strong: "link only", rest: "the source allows no text and no picture" }),
  "copies.made": ({ data }) => ({
    strong: "",
    rest: `${copied(data)} shown from copies of the blog's own`,
  }),
  "copies.not_allowed": ({ data }) => ({
    strong: "nothing is copied",
    rest: `the source does not allow its full text: ${copied(data)} not copied`,
  }),
  published: () => ({ strong: "published", rest: "no rule objects" }),
  "held.by_campaign": () => ({ strong: "held for review", rest: "this campaign holds every post" }),
  "held.for_editions": ({ data }) => ({
    strong: "waits for its editions",
    rest: `it goes out together with ${list(data, "languages").join(", ")}`,
  }),
  "held.by_rule": ({ data }) => ({
    strong: "held for review",
    rest: `a rule asks for it: ${list(data, "rules").join(", ")}`,
  }),
  private: () => ({ strong: "published privately", rest: "for the people of this blog" }),
  scheduled: ({ data }) => ({ strong: "scheduled", rest: `for ${moment(text(data, "at"))}` }),
  "scheduled.by_pace": ({ data }) => ({
    strong: "scheduled",
    rest: `the pace is reached; it goes out ${moment(text(data, "at"))}`,
  }),
  "release.full": ({ data }) => ({
    strong: "waits",
    rest: `${number(data, "limit")} ${data.per === "hour" ? "an" : "a"} ${text(data, "per")} are reached; a later run takes it`,
  }),
  "release.failed": ({ data }) => ({
    strong: "could not be decided",
    rest: `because of an error in Glyptarch; the server's log has more, under “run ${number(data, "run")}”`,
  }),
  "release.let_through": ({ data }) => ({
    strong: `${text(data, "by") || "somebody"} let it through`,
    rest: text(data, "stage")
      ? `although it left at ${STAGE_NAMES[text(data, "stage") as Stage] ?? text(data, "stage")}`
      : "",
  }),
  "hold.no": () => ({ strong: "", rest: "no reason to hold it" }),
  "hold.no_picture": () => ({ strong: "no lead image", rest: "" }),
  "hold.few_words": ({ data }) => ({
    strong: `${number(data, "words")} words`,
    rest: `fewer than ${number(data, "fewer_than")}`,
  }),
  "hold.no_category": ({ data }) => ({
    strong: "no category of its own",
    rest: text(data, "category") ? `only the usual one, ${text(data, "category")}` : "",
  }),
  "hold.words": ({ data }) => ({ strong: "still has", rest: list(data, "terms").join(", ") }),
  "hold.layout_changed": () => ({
    strong: "the layout of its site has changed",
    rest: "what is read there may be wrong; the source says what has dropped",
  }),
  "hold.unread_field": ({ data }) => ({ strong: "field not read", rest: list(data, "fields").join(", ") }),
  drafted: () => ({ strong: "kept as a draft", rest: "" }),
};
