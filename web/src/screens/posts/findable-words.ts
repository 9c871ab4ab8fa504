import type { Lacking } from "@/api/posts";
import { plural } from "@/lib/format";

/** What each lack means and what to do, in a sentence. */
export function lackWords({ lack, data }: Lacking): string {
  const { characters = 0, most = 0, least = 0, width = 0, words = 0, pictures = 0 } = data;
  switch (lack) {
    case "not_public":
      return "Not everybody may read it: search engines never see it.";
    case "original_elsewhere":
      return "It names another page as the original, which search engines show instead.";
    case "title_long":
      return `Its title has ${characters} characters; results show about ${most}.`;
    case "no_description":
      return "It has no description: results show any words of the page.";
    case "description_is_title":
      return "Its description only repeats the title.";
    case "description_short":
      return `Its description has ${characters} characters; ${least} or more say what it is about.`;
    case "description_long":
      return `Its description has ${characters} characters; results cut it after about ${most}.`;
    case "no_picture":
      return "It has no lead picture: where it is shared, it is words alone.";
    case "picture_small":
      return `Its picture is ${width} pixels wide; from ${least} on it is shown large.`;
    case "no_alt":
      return "Its lead picture has no description for those who do not see it.";
    case "pictures_without_alt":
      return `${plural(pictures, "picture")} of its text ${pictures === 1 ? "has" : "have"} no description.`;
    case "text_short":
      return `It has ${plural(words, "word")}: search engines take a page of fewer than ${least} for empty.`;
  }
}
