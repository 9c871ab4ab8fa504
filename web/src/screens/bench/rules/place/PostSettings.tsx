import type { CampaignDocument } from "@/api/campaigns";
import { kindOf, POST_KINDS } from "@/lib/post-kinds";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";
import { WordToggle } from "@/ui/WordToggle";

type Place = CampaignDocument["place"];

const VISIBILITIES = [
  { value: "public", label: "anybody" },
  { value: "private", label: "the people of this blog" },
  { value: "phrase", label: "whoever knows the phrase" },
] as const;
const CANONICAL = [
  { value: "copied", label: "the original of a copied text, else to the post" },
  { value: "original", label: "the original" },
  { value: "itself", label: "the post itself" },
] as const;
/** What the choice does, in words for people who do not know what a canonical address is. */
const EFFECTS: Record<Place["canonical"], string> = {
  copied:
    "A post that carries most of its source’s text names the source’s page as the original, and is not in the site map. An excerpt, a translation or a reworded text is a page of the blog’s own.",
  original: "Search engines show the source’s page. Posts are in no site map.",
  itself:
    "Search engines may show the post. Where it copies a text, they may take it for a copy and rank it low.",
};

interface PostSettingsProps {
  place: Place;
  onChange: (next: Partial<Place>) => void;
}

/** The kind, visibility and language of a post. */
export function PostSettings({ place, onChange }: PostSettingsProps) {
  return (
    <>
      Each is{" "}
      <WordText
        label="Kind of post"
        value={place.kind}
        known={["page", ...POST_KINDS]}
        placeholder="article"
        onChange={(kind) => onChange({ kind: kindOf(kind) })}
      />
      , for{" "}
      <WordSelect
        label="Who may read"
        value={place.visibility}
        options={VISIBILITIES}
        onChange={(visibility) =>
          onChange({
            visibility,
            pass_phrase: place.pass_phrase || (visibility === "phrase" ? "change me" : ""),
          })
        }
      />{" "}
      {place.visibility === "phrase" && (
        <WordText
          label="Pass phrase"
          value={place.pass_phrase}
          known={[]}
          placeholder="the phrase"
          onChange={(pass_phrase) => onChange({ pass_phrase })}
        />
      )}
      , in{" "}
      <WordText
        label="Language"
        value={place.language}
        known={["en", "de", "fr"]}
        placeholder="the item’s language"
        onChange={(language) => onChange({ language })}
      />
      . Search engines are led to{" "}
      <WordSelect
        label="Canonical address"
        value={place.canonical}
        options={CANONICAL}
        onChange={(canonical) => onChange({ canonical })}
      />
      . <span className="text-xs text-ink3">{EFFECTS[place.canonical]}</span>{" "}
      <WordToggle
        label="comments allowed"
        on={place.comments}
        onChange={(comments) => onChange({ comments })}
      />
      <WordToggle label="pinned on top" on={place.pinned} onChange={(pinned) => onChange({ pinned })} />
    </>
  );
}
