import { CompletionContext } from "@codemirror/autocomplete";
import { EditorState } from "@codemirror/state";
import { describe, expect, it } from "vitest";
import { OFFER_TAGS } from "./offer-tags";
import { completeOffers } from "./TemplateEditor";

function offered(text: string): string[] {
  const state = EditorState.create({ doc: text });
  const answer = completeOffers(new CompletionContext(state, text.length, false));
  return answer ? answer.options.map((option) => String(option.apply)) : [];
}

describe("places for offers in a template", () => {
  it("are listed at the beginning of a tag", () => {
    expect(offered("<p>{% ")).toHaveLength(Object.keys(OFFER_TAGS).length);
    expect(offered("{%- off")).toContain("offer reviews %}");
    expect(offered("{% offer ra")).toContain("offer rating %}");
  });

  it("are not listed within other tags and texts", () => {
    for (const text of ["{{ ", "{% if ", "{% for ", "offer ", "{% offer price %} ", "{% assign x = "])
      expect(offered(text)).toEqual([]);
  });
});
