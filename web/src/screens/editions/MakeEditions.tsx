import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { type EditionMode, languagesQuery, type Wanted, wantEditions } from "@/api/editions";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { desk } from "@/lib/blog-path";
import { costWords } from "@/lib/cost-words";
import { plural } from "@/lib/format";
import { languageName } from "@/lib/languages";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { useTell } from "@/ui/Toasts";
import { WordSelect } from "@/ui/WordSelect";

interface MakeEditionsProps {
  blog: string;
  selection: Schemas["SelectionIn"];
  number: number;
  onClose: () => void;
}

export const EDITION_MODES = [
  { value: "hold", label: "held for you" },
  { value: "publish", label: "published with its original" },
] as const;

/** Asks for editions of many posts, after saying how many there would be and what they cost. */
export function MakeEditions({ blog, selection, number, onClose }: MakeEditionsProps) {
  const tell = useTell();
  const languages = useQuery(languagesQuery(blog)).data?.document.languages.filter(
    ({ services }) => services.length,
  );
  const [chosen, setChosen] = useState("");
  const [mode, setMode] = useState<EditionMode>("hold");
  const [cost, setCost] = useState<Wanted | null>(null);
  const language = chosen || (languages?.[0]?.tag ?? "");
  const body = { ...selection, language, mode };
  const pricing = useChange(() => wantEditions(blog, { ...body, go: false }), { onDone: setCost });
  const wanting = useChange(() => wantEditions(blog, { ...body, go: true }), {
    refresh: [keys.posts(blog), keys.tasks(blog)],
    onDone: ({ posts }) => {
      tell(`${plural(posts, "edition")} wanted. They are made one after another.`, { tone: "good" });
      onClose();
    },
  });
  const fault = pricing.error ?? wanting.error;
  return (
    <Dialog open onOpenChange={onClose} title={`Editions of ${plural(number, "post")}`}>
      {languages?.length === 0 && (
        <p>
          No language of the blog has a service that makes editions.{" "}
          <Link className="font-semibold text-verd" to={desk.languages(blog)}>
            Settings, Languages
          </Link>{" "}
          sets them.
        </p>
      )}
      {languages && languages.length > 0 && (
        <>
          <p className="leading-8">
            In{" "}
            <WordSelect
              label="Language"
              value={language}
              options={languages.map(({ tag }) => ({ value: tag, label: languageName(tag) }))}
              onChange={(tag) => {
                setChosen(tag);
                setCost(null);
              }}
            />
            , each is{" "}
            <WordSelect
              label="What becomes of them"
              value={mode}
              options={EDITION_MODES}
              onChange={setMode}
            />
            . Posts that have one already, or whose source allows a link only, are left out.
          </p>
          {cost && (
            <p role="status" className="mt-2">
              {cost.posts
                ? `${plural(cost.posts, "post")} would get one. `
                : "Each has one already, or may have none."}
              {cost.costs.length
                ? `About ${costWords(cost.costs)}.`
                : cost.posts > 0 && "It costs nothing: all texts are kept already."}
            </p>
          )}
          {fault && (
            <p role="alert" className="mt-2 text-madder">
              {fault.message}
            </p>
          )}
        </>
      )}
      <div className="flex justify-end gap-2 pt-4">
        <Button onClick={onClose}>Cancel</Button>
        {cost ? (
          <Button
            look="primary"
            busy={wanting.isPending}
            disabled={!cost.posts}
            onClick={() => wanting.mutate()}
          >
            Make {plural(cost.posts, "edition")}
          </Button>
        ) : (
          <Button
            look="primary"
            busy={pricing.isPending}
            disabled={!language}
            onClick={() => pricing.mutate()}
          >
            What would it cost?
          </Button>
        )}
      </div>
    </Dialog>
  );
}
