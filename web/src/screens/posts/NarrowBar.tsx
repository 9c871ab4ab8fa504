import { useQuery } from "@tanstack/react-query";
import { namesQuery } from "@/api/names";
import { EVERY_POST, type PostFilter, type PostList } from "@/api/posts";
import { FromWhere } from "@/components/FromWhere";
import { NameWord } from "@/components/words/NameWord";
import { LANGUAGES } from "@/lib/languages";
import { reasonName } from "@/lib/wording";
import { OptionalNumber } from "@/ui/OptionalNumber";
import { WordDate } from "@/ui/WordDate";
import { WordSelect } from "@/ui/WordSelect";
import { WordText } from "@/ui/WordText";

interface NarrowBarProps {
  blog: string;
  list: PostList;
  onChange: (next: Partial<PostFilter>) => void;
}

const ANY = "-any-";
const VISIBILITIES = [
  { value: ANY, label: "any visibility" },
  { value: "public", label: "public" },
  { value: "private", label: "private" },
  { value: "phrase", label: "with a pass phrase" },
] as const;
const EDITED = [
  { value: ANY, label: "edited or not" },
  { value: "true", label: "edited by hand" },
  { value: "false", label: "as the rules made them" },
] as const;

const CORRECTED = [
  { value: ANY, label: "corrected by the source or not" },
  { value: "true", label: "corrected by the source" },
] as const;

const EDITIONS = [
  { value: ANY, label: "with each story once" },
  { value: "all", label: "with their editions" },
  { value: "only", label: "editions alone" },
] as const;

/** The filter of the list as one sentence. */
export function NarrowBar({ blog, list, onChange }: NarrowBarProps) {
  const tags = useQuery(namesQuery(blog, "tag", list.tag, 0, 50)).data?.rows ?? [];
  const chosen = (value: string) => (value === ANY ? "" : value);
  const narrowed = Object.keys(EVERY_POST).some(
    (name) =>
      name !== "state" &&
      name !== "search" &&
      !(name === "editions" && list.editions === "all") &&
      list[name as keyof PostFilter],
  );
  return (
    <p className="leading-7 text-ink3">
      <FromWhere blog={blog} campaign={list.campaign} source={list.source} onChange={onChange} />, in{" "}
      <NameWord
        blog={blog}
        kind="category"
        label="Category"
        any="any category"
        value={list.category}
        onChange={(category) => onChange({ category })}
      />{" "}
      with{" "}
      <WordText
        label="Tag"
        value={list.tag}
        known={tags.map(({ name }) => name)}
        placeholder="any tag"
        onChange={(tag) => onChange({ tag })}
      />{" "}
      by{" "}
      <NameWord
        blog={blog}
        kind="byline"
        label="Byline"
        any="anybody"
        value={list.byline}
        onChange={(byline) => onChange({ byline })}
      />
      ,{" "}
      <WordSelect
        label="Edited by hand"
        value={list.edited || ANY}
        options={EDITED}
        onChange={(edited) => onChange({ edited: chosen(edited) as PostFilter["edited"] })}
      />
      ,{" "}
      <WordSelect
        label="Corrected by the source"
        value={list.corrected || ANY}
        options={CORRECTED}
        onChange={(corrected) => onChange({ corrected: chosen(corrected) as PostFilter["corrected"] })}
      />
      ,{" "}
      <WordSelect
        label="Visibility"
        value={list.visibility || ANY}
        options={VISIBILITIES}
        onChange={(visibility) => onChange({ visibility: chosen(visibility) as PostFilter["visibility"] })}
      />
      , in{" "}
      <WordText
        label="Language"
        value={list.language}
        known={LANGUAGES}
        placeholder="any language"
        longest={20}
        onChange={(language) => onChange({ language })}
      />
      ,{" "}
      <WordSelect
        label="Editions"
        value={list.editions || ANY}
        options={EDITIONS}
        onChange={(editions) => onChange({ editions: chosen(editions) as PostFilter["editions"] })}
      />
      , dated from{" "}
      <WordDate
        label="First day"
        value={list.since || null}
        none="the first"
        onChange={(day) => onChange({ since: day ?? "" })}
      />{" "}
      to{" "}
      <WordDate
        label="Last day"
        value={list.until || null}
        none="the last"
        onChange={(day) => onChange({ until: day ?? "" })}
      />
      ,{" "}
      <OptionalNumber
        label="Longest"
        value={list.longest ? Number(list.longest) : null}
        none="of any length"
        usual={100}
        max={1_000_000}
        unit="words at most"
        onChange={(words) => onChange({ longest: words === null ? "" : String(words) })}
      />
      {list.run && <>, made by run {list.run}</>}
      {list.reason && <>, held because of “{reasonName(list.reason)}”</>}
      {narrowed && (
        <button
          type="button"
          className="ml-2 min-h-6 text-xs font-semibold text-verd hover:underline"
          onClick={() => onChange({ ...EVERY_POST, state: list.state, search: list.search })}
        >
          Show all
        </button>
      )}
    </p>
  );
}
