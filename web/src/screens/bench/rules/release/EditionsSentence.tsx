import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { CampaignDocument } from "@/api/campaigns";
import { languagesQuery } from "@/api/editions";
import { desk } from "@/lib/blog-path";
import { languageName } from "@/lib/languages";
import { WordSelect } from "@/ui/WordSelect";

type Release = CampaignDocument["release"];

interface EditionsSentenceProps {
  blog: string;
  release: Release;
  onChange: (next: Pick<Release, "editions" | "together">) => void;
}

const MODES = [
  { value: "none", label: "makes no edition" },
  { value: "hold", label: "makes an edition that is held" },
  { value: "publish", label: "makes an edition that goes out with it" },
] as const;

const TOGETHER = [
  { value: "no", label: "goes out at once, its editions follow" },
  { value: "yes", label: "waits until its editions are made" },
] as const;

/** The editions that a campaign makes, one line for each language of the blog. */
export function EditionsSentence({ blog, release, onChange }: EditionsSentenceProps) {
  const languages = useQuery(languagesQuery(blog)).data?.document.languages ?? [];
  const { editions, together } = release;
  const lost = editions.filter(({ to }) => !languages.some(({ tag }) => tag === to));
  const set = (to: string, mode: (typeof MODES)[number]["value"]) =>
    onChange({
      together,
      editions: [...editions.filter((rule) => rule.to !== to), ...(mode === "none" ? [] : [{ to, mode }])],
    });
  if (!languages.length && !editions.length)
    return (
      <>
        The blog has one language.{" "}
        <Link className="font-semibold text-verd" to={desk.languages(blog)}>
          Add another
        </Link>{" "}
        to make editions of its posts.
      </>
    );
  return (
    <>
      {languages.map(({ tag, services }) => (
        <span key={tag} className="block">
          In {languageName(tag)} a post{" "}
          <WordSelect
            label={`Edition in ${languageName(tag)}`}
            value={editions.find(({ to }) => to === tag)?.mode ?? "none"}
            options={MODES}
            onChange={(mode) => set(tag, mode)}
          />
          {!services.length && <span className="text-xs text-madder"> (no service is chosen for it)</span>}
        </span>
      ))}
      {lost.map(({ to }) => (
        <span key={to} className="block text-xs text-madder">
          The blog has no language “{to}” any more.{" "}
          <button type="button" className="min-h-6 font-semibold" onClick={() => set(to, "none")}>
            Take it out
          </button>
        </span>
      ))}
      {editions.length > 0 && (
        <span className="block">
          A post that may go out{" "}
          <WordSelect
            label="Together or one after another"
            value={together ? "yes" : "no"}
            options={TOGETHER}
            onChange={(next) => onChange({ editions, together: next === "yes" })}
          />
          .
        </span>
      )}
    </>
  );
}
