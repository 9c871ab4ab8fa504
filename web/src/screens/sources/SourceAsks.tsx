import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { keys } from "@/api/keys";
import { type Asks, asksYaml, changeAsks, platformsQuery, testPlatform, wordsQuery } from "@/api/platforms";
import { type Source, sourceQuery } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { FormError } from "@/components/FormError";
import type { Version } from "@/lib/editing/document";
import { AskForm } from "@/screens/platforms/AskForm";
import { AskTestResult } from "@/screens/platforms/AskTestResult";
import { SuggestedWords } from "@/screens/platforms/SuggestedWords";
import { namesOf } from "@/screens/platforms/schema";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";

function versionOf({ version, connection, parameters, search_words }: Source): Version<Asks> {
  return { number: version, value: { connection, parameters, search_words } };
}

/** The platform parameters of a source, and the results of its search lines. */
export function SourceAsks({ blog, source }: { blog: string; source: Source }) {
  const tell = useTell();
  const queries = useQueryClient();
  const editor = useMay()("editor");
  const platform = useQuery(platformsQuery).data?.find(({ key }) => key === source.platform);
  const counts = useQuery(wordsQuery(blog, source.key)).data;
  const edited = useEdited<Asks, Source>({
    document: `asks ${blog}/${source.key}`,
    saved: useMemo(() => versionOf(source), [source]),
    save: (asks, version) => changeAsks(blog, source.key, asks, version),
    versionOf,
    fetchLatest: async () =>
      versionOf((await queries.fetchQuery({ ...sourceQuery(blog, source.key), staleTime: 0 })).source),
    refresh: [keys.source(blog, source.key), keys.sources(blog)],
    onSaved: () => tell("Saved. The next reading asks so.", { tone: "good" }),
  });
  const asks = edited.now;
  const setAsks = (next: Asks) => edited.edit(() => next);
  const testing = useChange((asked: Asks) => testPlatform(blog, source.platform, asked));
  async function takeYaml() {
    try {
      const { yaml } = await asksYaml(blog, source.key);
      await navigator.clipboard.writeText(yaml);
      tell("What it asks for is in the clipboard as YAML.", { tone: "good" });
    } catch (error) {
      tell(error instanceof Error ? error.message : String(error), { tone: "bad" });
    }
  }
  if (!platform) return null;
  const error = edited.error ?? testing.error;
  return (
    <section aria-label="What it asks for" className="mb-4 sheet-card overflow-hidden">
      <EditGuard edited={edited} />
      <EditNotices edited={edited} what="what it asks for" fields={["connection", ...namesOf(platform)]} />
      <fieldset disabled={!editor} className="as-text p-4">
        <h2 className="mb-3 text-sm font-semibold">What it asks the {platform.name.toLowerCase()} for</h2>
        <AskForm
          blog={blog}
          platform={platform}
          asks={asks}
          error={error}
          counts={counts ?? []}
          onChange={setAsks}
        />
        {platform.by_words && editor && (
          <SuggestedWords
            blog={blog}
            source={source.key}
            lines={asks.search_words}
            onAdd={(text) => setAsks({ ...asks, search_words: [...asks.search_words, { text, on: true }] })}
          />
        )}
        <FormError error={testing.error} fields={["connection", ...namesOf(platform)]} />
      </fieldset>
      {editor && (
        <div className="flex flex-wrap items-center gap-2 px-4 pb-4">
          <Button busy={testing.isPending} onClick={() => testing.mutate(asks)}>
            Test
          </Button>
          <Button onClick={takeYaml}>Copy as YAML</Button>
          <span className="ml-auto flex items-center gap-2">
            <SaveButtons edited={edited} what="what it asks for" />
          </span>
        </div>
      )}
      {testing.data && (
        <div className="px-4 pb-4">
          <AskTestResult
            test={testing.data}
            onWider={
              editor
                ? (parameters) => {
                    setAsks({ ...asks, parameters });
                    testing.mutate({ ...asks, parameters });
                  }
                : undefined
            }
          />
        </div>
      )}
    </section>
  );
}
