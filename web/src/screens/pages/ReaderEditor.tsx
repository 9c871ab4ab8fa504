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
import { Button, buttonLook } from "@/ui/Button";
import { Pill } from "@/ui/Pill";
import { useTell } from "@/ui/Toasts";
import { PageView } from "./PageView";
import { Parts } from "./Parts";
import { ReaderOutcome, type Setup } from "./ReaderOutcome";
import { useReader } from "./useReader";

interface ReaderEditorProps {
  blog: string;
  reader: Reader | null;
  given: ReaderDocument;
  page: OpenedPage | null;
  /** Whether pages are read after their scripts have run. */
  rendered: boolean;
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
  const { name } = edited.now;
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
        <ReaderOutcome
          blog={blog}
          reader={reader}
          state={state}
          opened={page}
          setup={edited.now}
          onChange={set}
          editor={editor}
        />
      </div>
    </>
  );
}
