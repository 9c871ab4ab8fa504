import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link, useNavigate } from "react-router";
import { keys } from "@/api/keys";
import {
  addPageSource,
  makeReader,
  type OpenedPage,
  type Reader,
  type ReaderDocument,
  readerQuery,
  readerYaml,
  saveReader,
} from "@/api/pages";
import { readSource } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { Head } from "@/components/Head";
import { desk } from "@/lib/blog-path";
import type { Version } from "@/lib/editing/document";
import { plural } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { Pill } from "@/ui/Pill";
import { Scroll } from "@/ui/Scroll";
import { useTell } from "@/ui/Toasts";
import { Drift } from "./Drift";
import { KeptPages } from "./KeptPages";
import { PageView } from "./PageView";
import { Parts } from "./Parts";
import { Scripts } from "./Scripts";
import { Tallies } from "./Tallies";
import { useReader } from "./useReader";

interface ReaderEditorProps {
  blog: string;
  reader: Reader | null;
  given: ReaderDocument;
  page: OpenedPage | null;
  /** Whether pages are read after their scripts have run. */
  rendered: boolean;
}

interface Setup {
  name: string;
  document: ReaderDocument;
  mends_itself: boolean;
}

function versionOf({ version, name, document, mends_itself }: Reader): Version<Setup> {
  return { number: version, value: { name, document, mends_itself } };
}

const nameOf = (blog: string, key: string) => `page reader ${blog}/${key}`;

/** The reader's desk: the page on the left, its parts in the middle, the result on the right. */
export function ReaderEditor({ blog, reader, given, page, rendered }: ReaderEditorProps) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const tell = useTell();
  const editor = useMay()("editor");
  const refresh = [keys.readers(blog), keys.reader(blog), keys.sources(blog)];
  const title = page?.title ?? "";
  const saved = useMemo(
    () =>
      reader
        ? versionOf(reader)
        : { number: 0, value: { name: title, document: given, mends_itself: false } },
    [reader, title, given],
  );
  const edited = useEdited<Setup, Reader>({
    document: nameOf(blog, reader?.key ?? `new ${given.url}`),
    saved,
    save: (setup, version) =>
      reader
        ? saveReader(blog, reader.key, { ...setup, version })
        : makeReader(blog, setup.name, setup.document),
    versionOf,
    becomes: (made) => (reader ? null : nameOf(blog, made.key)),
    ...(reader && {
      fetchLatest: async () =>
        versionOf(await queries.fetchQuery({ ...readerQuery(blog, reader.key), staleTime: 0 })),
    }),
    refresh,
    onSaved: (made) => {
      tell(`“${made.name}” is saved.`, { tone: "good" });
      if (!reader) navigate(desk.reader(blog, made.key, state.rendered));
    },
  });
  const { name, mends_itself: mendsItself } = edited.now;
  const set = (part: Partial<Setup>) => edited.edit((before) => ({ ...before, ...part }));
  const state = useReader(
    blog,
    edited.now.document,
    (change) => edited.edit((before) => ({ ...before, document: change(before.document) })),
    page,
    rendered,
  );
  const unsaved = edited.changed || !reader;

  const sourcing = useChange(
    async () => {
      const source = await addPageSource(blog, reader?.key ?? "", name, state.rendered);
      await readSource(blog, source.key);
      return source;
    },
    { refresh, onDone: (source) => navigate(desk.source(blog, source.key)) },
  );
  async function takeYaml() {
    if (!reader) return;
    try {
      const { yaml } = await readerYaml(blog, reader.key);
      await navigator.clipboard.writeText(yaml);
      tell("The reader is in the clipboard as YAML.", { tone: "good" });
    } catch (error) {
      tell(error instanceof Error ? error.message : String(error), { tone: "bad" });
    }
  }

  const { link, data } = state.document.list_page;
  const hasList = Boolean(link || data) || page?.kind === "sitemap";
  const entries = state.list.data?.entries ?? [];
  const feeds = page?.feeds ?? [];
  const error = sourcing.error ?? state.pointing.error ?? state.list.error;
  return (
    <>
      {editor && <EditGuard edited={edited} />}
      <Head
        title={reader?.name ?? "New page reader"}
        facts={
          <>
            {reader?.drift.length ? <Pill tone="madder">layout has changed</Pill> : null}
            <span className="truncate text-ink3">{state.document.url}</span>
          </>
        }
      >
        {editor && (
          <>
            {reader && <Button onClick={takeYaml}>Copy as YAML</Button>}
            <Button
              busy={state.opening.isPending}
              onClick={() => state.opening.mutate({ url: state.document.url, as: "list" })}
            >
              Read the page again
            </Button>
            <SaveButtons
              edited={edited}
              what="the page reader"
              keys={ON_SCREEN}
              label={reader ? "Save" : "Save reader"}
              valid={name.trim() !== "" && hasList}
              isNew={!reader}
            />
            {reader && !reader.sources.length && (
              <Button
                look="primary"
                busy={sourcing.isPending}
                disabled={unsaved}
                onClick={() => sourcing.mutate()}
              >
                Make it a source
              </Button>
            )}
            {reader?.sources[0] && (
              <Link className={buttonLook("plain")} to={desk.source(blog, reader.sources[0])}>
                To its source
              </Link>
            )}
          </>
        )}
      </Head>
      <EditNotices edited={edited} what="the page reader" />
      {error && (
        <p role="alert" className="border-b border-line bg-madder-wash px-4 py-2 text-madder">
          {error.message}
        </p>
      )}
      <div className="flex min-h-0 flex-1">
        <PageView blog={blog} state={state} editor={editor} />
        <fieldset disabled={!editor} className="contents">
          <Parts blog={blog} state={state} />
        </fieldset>
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
          {page?.kind === "sitemap" && (
            <p className="rounded-md bg-verd-wash p-2 text-xs text-verd-deep">
              This is a sitemap: the addresses that it names are read, the newest first. No selector is needed
              for the list. {!entries.length && "It is an index: the newest sitemap in it is read."}
            </p>
          )}
          {editor && <Scripts state={state} />}
          <label className="block">
            <span className="mb-1 block font-semibold">Name</span>
            <input
              value={name}
              readOnly={!editor}
              onChange={(event) => set({ name: event.target.value })}
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
                checked={mendsItself}
                onChange={(event) => set({ mends_itself: event.target.checked })}
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
      </div>
    </>
  );
}
