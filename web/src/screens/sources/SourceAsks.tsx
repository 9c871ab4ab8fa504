import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { keys } from "@/api/keys";
import { type Asks, asksYaml, changeAsks, platformsQuery, testPlatform, wordsQuery } from "@/api/platforms";
import type { Source } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { FormError } from "@/components/FormError";
import { same } from "@/lib/editing/edits";
import { AskForm } from "@/screens/platforms/AskForm";
import { AskTestResult } from "@/screens/platforms/AskTestResult";
import { SuggestedWords } from "@/screens/platforms/SuggestedWords";
import { namesOf } from "@/screens/platforms/schema";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";

/** The platform parameters of a source, and the results of its search lines. */
export function SourceAsks({ blog, source }: { blog: string; source: Source }) {
  const tell = useTell();
  const editor = useMay()("editor");
  const platform = useQuery(platformsQuery).data?.find(({ key }) => key === source.platform);
  const counts = useQuery(wordsQuery(blog, source.key)).data;
  const known: Asks = {
    connection: source.connection,
    parameters: source.parameters,
    search_words: source.search_words,
  };
  const [asks, setAsks] = useState(known);
  const testing = useMutation({ mutationFn: () => testPlatform(blog, source.platform, asks) });
  const saving = useChange(() => changeAsks(blog, source.key, asks), {
    refresh: [keys.source(blog, source.key), keys.sources(blog)],
    onDone: () => tell("Saved. The next reading asks so.", { tone: "good" }),
  });
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
  const error = saving.error ?? testing.error;
  return (
    <section aria-label="What it asks for" className="mb-4 sheet-card p-4">
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
      <FormError error={error} fields={["connection", ...namesOf(platform)]} />
      {editor && (
        <div className="mt-3 flex gap-2">
          <Button busy={testing.isPending} onClick={() => testing.mutate()}>
            Test
          </Button>
          <Button onClick={takeYaml}>Copy as YAML</Button>
          {!same(asks, known) && (
            <Button look="primary" busy={saving.isPending} onClick={() => saving.mutate()}>
              Save
            </Button>
          )}
        </div>
      )}
      {testing.data && (
        <div className="mt-4">
          <AskTestResult test={testing.data} />
        </div>
      )}
    </section>
  );
}
