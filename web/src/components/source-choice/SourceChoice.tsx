import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { CampaignDocument } from "@/api/campaigns";
import { chosenSourcesQuery, findSourceKeys, type Source, sourcesQuery } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { SearchBox } from "@/components/SearchBox";
import { count, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { AddFeedDialog } from "./AddFeedDialog";
import { LabelChoice } from "./LabelChoice";
import { SourceTick } from "./SourceTick";

export type Chosen = Pick<CampaignDocument["gather"], "sources" | "labels">;

/** A blog with more sources is searched; fewer are all shown. */
const SHOWN = 20;

interface SourceChoiceProps {
  blog: string;
  chosen: Chosen;
  onChange: (next: Partial<Chosen>) => void;
}

/** The choice of sources: labels whose sources all belong to it, and single ones. */
export function SourceChoice({ blog, chosen, onChange }: SourceChoiceProps) {
  const [search, setSearch] = useState("");
  const [adding, setAdding] = useState(false);
  const found = useQuery(sourcesQuery(blog, search, "title", 0, SHOWN)).data;
  const known = useQuery(chosenSourcesQuery(blog, chosen.sources, [])).data;
  const many = search !== "" || (found?.total ?? 0) > SHOWN;
  const takingAll = useChange(() => findSourceKeys(blog, { search, label: "" }), {
    onDone: (all) => onChange({ sources: [...new Set([...chosen.sources, ...all])] }),
  });
  const named = new Set(chosen.sources);
  const own = many ? (known?.rows ?? []).filter(({ key }) => named.has(key)) : [];
  const others = (found?.rows ?? []).filter(({ key }) => !own.some((one) => one.key === key));
  const lost = (known?.lost ?? []).filter((key) => named.has(key));
  const hidden = chosen.sources.length - own.length - lost.length;

  function tick(key: string, on: boolean) {
    onChange({ sources: on ? [...chosen.sources, key] : chosen.sources.filter((one) => one !== key) });
  }

  const tickOf = (source: Source) => (
    <SourceTick
      key={source.key}
      title={source.title}
      note={plural(source.items, "item")}
      on={named.has(source.key)}
      onChange={(on) => tick(source.key, on)}
    />
  );

  return (
    <>
      <div className="mb-1 flex flex-wrap items-center gap-1.5">
        <span className="font-medium">Items come from</span>
        <LabelChoice blog={blog} known={found?.labels ?? []} labels={chosen.labels} onChange={onChange} />
      </div>
      {own.map(tickOf)}
      {many && hidden > 0 && (
        <p className="py-0.5 text-ink3">and {plural(hidden, "further chosen source")}</p>
      )}
      {lost.map((key) => (
        <SourceTick
          key={key}
          title={key}
          note="removed: untick it to save"
          bad
          on
          onChange={() => tick(key, false)}
        />
      ))}
      {many && (
        <div className="mt-1.5 flex flex-wrap items-center gap-2">
          <SearchBox label="Find a source" value={search} onChange={setSearch} />
          {search !== "" && (found?.total ?? 0) > 0 && (
            <Button small busy={takingAll.isPending} onClick={() => takingAll.mutate()}>
              Take all {count(found?.total ?? 0)} found
            </Button>
          )}
        </div>
      )}
      <FormError error={takingAll.error} />
      {others.map(tickOf)}
      {many && (found?.total ?? 0) > SHOWN && (
        <p className="py-0.5 text-ink3">
          {count((found?.total ?? 0) - SHOWN)} more: search for their names or addresses.
        </p>
      )}
      {search !== "" && found?.total === 0 && <p className="py-0.5 text-ink3">No source found.</p>}
      <button type="button" className="font-semibold text-verd" onClick={() => setAdding(true)}>
        Add a feed
      </button>
      {adding && (
        <AddFeedDialog
          blog={blog}
          onAdded={(key) => onChange({ sources: [...new Set([...chosen.sources, key])] })}
          onClose={() => setAdding(false)}
        />
      )}
    </>
  );
}
