import { useQuery } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useState } from "react";
import {
  type Decision,
  type Proof,
  type ProofAsked,
  type ProofItem,
  proofItemQuery,
  proofPreviewQuery,
} from "@/api/proofs";
import { ErrorNote } from "@/components/ErrorNote";
import { Fields } from "@/components/Fields";
import { ItemKind } from "@/components/ItemKind";
import { Loading } from "@/components/Loading";
import { Preview } from "@/components/Preview";
import { SourceText } from "@/components/SourceText";
import { Trace } from "@/components/Trace";
import { moment } from "@/lib/format";
import { Scroll } from "@/ui/Scroll";
import { StepDialog } from "./dialogs/StepDialog";
import { LetThrough } from "./LetThrough";
import { TextsWanted } from "./TextsWanted";

interface InspectorProps {
  blog: string;
  slug: string;
  asked: ProofAsked;
  proof: Proof | undefined;
  item: number | null;
}

const TABS = [
  ["trace", "Trace"],
  ["fields", "Fields"],
  ["post", "Post preview"],
  ["text", "Source text"],
] as const;

function About({ decision }: { decision: Decision }) {
  const { item } = decision;
  return (
    <>
      <h2 className="text-base leading-tight">{item.title || "(no title)"}</h2>
      <p className="mt-0.5 text-xs text-ink3">
        {item.source} · {item.published ? `published ${moment(item.published)}` : "no date given"} ·{" "}
        {item.words} words
        {item.link && (
          <>
            {" · "}
            <a className="font-semibold text-verd" href={item.link} target="_blank" rel="noreferrer">
              Open the original
            </a>
          </>
        )}
      </p>
      <ItemKind item={item} />
    </>
  );
}

function PostPreview({ blog, slug, asked }: { blog: string; slug: string; asked: ProofItem }) {
  const preview = useQuery(proofPreviewQuery(blog, slug, asked));
  if (preview.error) return <ErrorNote error={preview.error} onRetry={preview.refetch} />;
  if (!preview.data) return <Loading what="the preview" />;
  if (!preview.data.html)
    return <p className="p-6 text-center text-ink3">Nothing is left of this item: see its trace.</p>;
  return (
    <div className="flex h-full flex-col">
      {preview.data.stopped && (
        <p className="border-b border-line bg-madder-wash px-3.5 py-1.5 text-madder">
          This item does not become a post. This is what it would look like if no rule stopped it.
        </p>
      )}
      <Preview html={preview.data.html} title="the post as the blog shows it" />
    </div>
  );
}

/** The chosen item: its trace, its fields, the post it becomes, and its text. */
export function Inspector({ blog, slug, asked, proof, item }: InspectorProps) {
  const [tab, setTab] = useState("trace");
  const [step, setStep] = useState<{ id: string; name: string } | null>(null);
  const one = { ...asked, item: item ?? 0, as_of: proof?.as_of ?? "" };
  const found = useQuery({
    ...proofItemQuery(blog, slug, one),
    enabled: item !== null && proof !== undefined,
  });
  if (item === null || !proof) {
    return (
      <aside className="bg-sheet p-8 text-center text-ink3">
        Choose an item to see why it stays or goes.
      </aside>
    );
  }
  const decision = found.data;
  return (
    <Tabs.Root value={tab} onValueChange={setTab} asChild>
      <aside
        id="chosen-item"
        tabIndex={-1}
        aria-label="Chosen item"
        className="flex min-h-[320px] min-w-0 flex-col bg-sheet outline-none lg:min-h-0"
      >
        <Tabs.List className="flex h-[42px] shrink-0 gap-4 border-b border-line px-3.5">
          {TABS.map(([value, name]) => (
            <Tabs.Trigger
              key={value}
              value={value}
              className="font-medium text-ink3 -outline-offset-2 hover:text-ink data-[state=active]:text-ink data-[state=active]:shadow-[inset_0_-2px_var(--verd)]"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Scroll label="About the item" className="min-h-0 flex-1">
          {found.error && !decision && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {!decision && !found.error && <Loading what="the item" />}
          {/* Each tab names its panel, so the panels are there before the item has come. */}
          <Tabs.Content value="trace" className="p-3.5">
            {decision && <About decision={decision} />}
            {decision && <LetThrough blog={blog} slug={slug} decision={decision} asked={one} />}
            {decision && <TextsWanted blog={blog} slug={slug} asked={asked} proof={proof} item={item} />}
            {decision && (
              <Trace
                blog={blog}
                decision={decision}
                onStep={(note) => setStep({ id: note.rule, name: note.rule_title || note.rule })}
              />
            )}
          </Tabs.Content>
          <Tabs.Content value="fields" className="p-3.5">
            {decision && <Fields item={decision.item} />}
          </Tabs.Content>
          <Tabs.Content value="post" className="h-full">
            {decision && <PostPreview blog={blog} slug={slug} asked={one} />}
          </Tabs.Content>
          <Tabs.Content value="text" className="p-3.5">
            {decision && <SourceText decision={decision} />}
          </Tabs.Content>
        </Scroll>
        {step && <StepDialog blog={blog} slug={slug} asked={one} step={step} onClose={() => setStep(null)} />}
      </aside>
    </Tabs.Root>
  );
}
