import { type Data, number, text, type Wordings } from "./data";

function matched(data: Data): string {
  const where = data.within_pass ? "an item of the same pass" : "a post";
  return `${where}: “${text(data, "title")}”`;
}

function alike(data: Data): string {
  return `${number(data, "likeness").toFixed(2)} alike`;
}

/** Match. */
export const MATCH: Wordings = {
  "match.new": ({ data }) => ({
    strong: "new",
    rest: `nothing alike in ${{ campaign: "this campaign", blog: "this blog", everything: "any blog" }[text(data, "against")] ?? ""}`,
  }),
  "match.identity": ({ data }) => ({ strong: "same identity", rest: matched(data) }),
  "match.link": ({ data }) => ({ strong: "same link", rest: matched(data) }),
  "match.title": ({ data }) => ({ strong: "same title", rest: matched(data) }),
  "match.product": ({ data }) => ({ strong: "same product", rest: matched(data) }),
  "match.media": ({ data }) => ({ strong: "same film or sound", rest: matched(data) }),
  "match.keyword": ({ data }) => ({ strong: "same keyword", rest: matched(data) }),
  "match.near_title": ({ data }) => ({ strong: `${alike(data)} title`, rest: matched(data) }),
  "match.near_text": ({ data }) => ({ strong: `${alike(data)} text`, rest: matched(data) }),
};
