import type { Which } from "@/api/blogs";
import { NameWord } from "@/components/words/NameWord";
import { SourceWord } from "@/components/words/SourceWord";
import { kindOf, POST_KINDS } from "@/lib/post-kinds";
import { WordText } from "@/ui/WordText";
import { ANY_POST } from "./parts";

interface WhichWordsProps {
  blog: string;
  which: Partial<Which> | undefined;
  onChange: (which: Which) => void;
}

/** Which posts a part takes, as the rest of a sentence. */
export function WhichWords({ blog, which: given, onChange }: WhichWordsProps) {
  const which = { ...ANY_POST, ...given };
  const set = (part: Partial<Which>) => onChange({ ...which, ...part });
  return (
    <>
      in{" "}
      <NameWord
        blog={blog}
        kind="category"
        label="Section"
        any="any section"
        by="slug"
        value={which.section}
        onChange={(section) => set({ section })}
      />
      , tagged{" "}
      <NameWord
        blog={blog}
        kind="tag"
        label="Tag"
        any="anything"
        by="slug"
        value={which.tag}
        onChange={(tag) => set({ tag })}
      />
      , from <SourceWord blog={blog} value={which.source} onChange={(source) => set({ source })} />, of{" "}
      <WordText
        label="Kind of post"
        value={which.post_kind}
        known={POST_KINDS}
        placeholder="any kind"
        longest={40}
        onChange={(typed) => set({ post_kind: kindOf(typed) })}
      />
    </>
  );
}
