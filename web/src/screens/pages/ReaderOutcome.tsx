import { Link } from "react-router";
import type { OpenedPage, Reader, ReaderDocument } from "@/api/pages";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { Drift } from "./Drift";
import { KeptPages } from "./KeptPages";
import { Scripts } from "./Scripts";
import { Tallies } from "./Tallies";
import type { ReaderState } from "./useReader";

/** What a person sets up of a page reader. */
export interface Setup {
  name: string;
  document: ReaderDocument;
  mends_itself: boolean;
}

interface ReaderOutcomeProps {
  blog: string;
  reader: Reader | null;
  state: ReaderState;
  /** The page that a new reader begins with. */
  opened: OpenedPage | null;
  setup: Setup;
  onChange: (part: Partial<Setup>) => void;
  editor: boolean;
}

/** What comes of a page reader: its articles, its name, the pages kept of it. */
export function ReaderOutcome({ blog, reader, state, opened, setup, onChange, editor }: ReaderOutcomeProps) {
  const entries = state.list.data?.entries ?? [];
  const feeds = opened?.feeds ?? [];
  return (
    <Scroll
      label="What comes of it"
      className="w-[290px] shrink-0 space-y-4 border-l border-line bg-sheet p-3"
    >
      {reader && editor && reader.drift.length > 0 && (
        <Drift blog={blog} reader={reader} onTry={state.tryOut} />
      )}
      {feeds.length > 0 && !reader && (
        <p className="rounded-md bg-ochre-wash p-2 text-xs text-ochre">
          This site names {plural(feeds.length, "feed")}: {feeds[0]?.title || feeds[0]?.url}. A feed lasts
          longer than a page reader.{" "}
          <Link className="font-semibold underline" to={desk.addSources(blog)}>
            Add the feed
          </Link>
        </p>
      )}
      {opened?.kind === "sitemap" && (
        <p className="rounded-md bg-verd-wash p-2 text-xs text-verd-deep">
          This is a sitemap: the addresses that it names are read, the newest first. No selector is needed for
          the list. {!entries.length && "It is an index: the newest sitemap in it is read."}
        </p>
      )}
      {editor && <Scripts state={state} />}
      <label className="block">
        <span className="mb-1 block font-semibold">Name</span>
        <input
          value={setup.name}
          readOnly={!editor}
          onChange={(event) => onChange({ name: event.target.value })}
          className="w-full rounded-[7px] border border-line bg-sheet px-2.5 py-1.5"
        />
      </label>
      <div>
        <h3 className="font-semibold">{plural(entries.length, "article")} in the list</h3>
        <ul className="mt-1 space-y-1 text-xs">
          {entries.slice(0, 8).map((entry) => (
            <li key={entry.url} className="flex items-center gap-2">
              {editor ? (
                <button
                  type="button"
                  className="min-h-6 truncate text-left hover:text-verd"
                  title={entry.url}
                  onClick={() => state.opening.mutate({ url: entry.url, as: "article" })}
                >
                  {entry.title || entry.url}
                </button>
              ) : (
                <span className="truncate">{entry.title || entry.url}</span>
              )}
              <span className="ml-auto whitespace-nowrap text-ink3">{entry.date?.slice(0, 10)}</span>
            </li>
          ))}
        </ul>
        {state.list.data?.next_url && (
          <p className="mt-1 truncate text-xs text-ink3" title={state.list.data.next_url}>
            goes on at {state.list.data.next_url.replace(/^https?:\/\/[^/]+/, "")}
          </p>
        )}
      </div>
      {editor && (
        <Button
          look="primary"
          busy={state.testing.isPending}
          disabled={!state.canTest}
          onClick={() => {
            state.setView("test");
            state.testing.mutate({ urls: state.samples });
          }}
        >
          Test on sample articles
        </Button>
      )}
      {reader && editor && (
        <label className="flex items-start gap-2 text-xs">
          <input
            type="checkbox"
            className="mt-0.5"
            checked={setup.mends_itself}
            onChange={(event) => onChange({ mends_itself: event.target.checked })}
          />
          When the layout changes, take a mend that is sure without asking. The audit list tells of it.
        </label>
      )}
      {reader && <Tallies tallies={reader.tallies} />}
      {reader && (
        <KeptPages
          blog={blog}
          reader={reader.key}
          shown={state.page?.id ?? null}
          onOpen={(number, as) => state.reopening.mutate({ number, as })}
        />
      )}
    </Scroll>
  );
}
