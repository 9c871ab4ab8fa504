import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { keys } from "@/api/keys";
import { importReader, type ReaderRow, readersQuery, removeReader } from "@/api/pages";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { moment, plural } from "@/lib/format";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { Button, buttonLook } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { FileButton } from "@/ui/FileButton";
import { Pill } from "@/ui/Pill";
import { useTell } from "@/ui/Toasts";

function Row({ blog, reader, editor }: { blog: string; reader: ReaderRow; editor: boolean }) {
  const tell = useTell();
  const removing = useChange(() => removeReader(blog, reader.key), {
    refresh: [keys.readers(blog)],
    onDone: () => tell(`“${reader.name}” is removed.`, { tone: "good" }),
  });
  return (
    <li className="flex items-center gap-3 border-t border-line2 px-4 py-2.5 first:border-0">
      <Link className="font-semibold hover:text-verd" to={desk.reader(blog, reader.key)}>
        {reader.name}
      </Link>
      {reader.drifted_at && <Pill tone="madder">layout has changed</Pill>}
      <span className="truncate text-xs text-ink3">{reader.url}</span>
      <span className="ml-auto text-xs whitespace-nowrap text-ink3">
        {reader.sources ? plural(reader.sources, "source") : "no source yet"} · changed{" "}
        {moment(reader.changed_at)}
      </span>
      {editor && (
        <Confirm
          trigger={
            <Button small look="danger" disabled={reader.sources > 0}>
              Remove
            </Button>
          }
          title={`Remove “${reader.name}”?`}
          text="Its settings and the pages it has kept go. Items and posts stay."
          action="Remove reader"
          onConfirm={() => removing.mutate()}
        />
      )}
      {removing.error && <span className="text-xs text-madder">{removing.error.message}</span>}
    </li>
  );
}

/** The page readers of the blog. */
export default function Readers() {
  const { blog = "" } = useParams();
  const navigate = useNavigate();
  const editor = useMay()("editor");
  const [search, setSearch] = useState("");
  const found = useQuery(readersQuery(blog));
  const importing = useChange(async (file: File) => importReader(blog, await file.text()), {
    refresh: [keys.readers(blog)],
    onDone: (reader) => navigate(desk.reader(blog, reader.key)),
  });
  const rows = (found.data ?? []).filter(({ name, url }) =>
    `${name} ${url}`.toLowerCase().includes(search.trim().toLowerCase()),
  );
  return (
    <>
      <Head title="Page readers" facts={<LibraryTabs />}>
        <SearchBox label="Find a reader" value={search} onChange={setSearch} />
        {editor && (
          <>
            <FileButton label="Reader as YAML" accept=".yaml,.yml" onFile={(file) => importing.mutate(file)}>
              From YAML
            </FileButton>
            <Link className={buttonLook("primary")} to={desk.newReader(blog)}>
              New page reader
            </Link>
          </>
        )}
      </Head>
      <div className="min-h-0 flex-1 space-y-3 overflow-auto p-5">
        {importing.error && (
          <p role="alert" className="text-madder">
            {importing.error.message}
          </p>
        )}
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="page readers" rows={3} />}
        {found.data && !found.data.length && (
          <Empty
            title="No page reader yet"
            text="A page reader makes a source of a site that has no feed: you show it one page, it finds the articles."
          >
            {editor && (
              <Link className={buttonLook("primary")} to={desk.newReader(blog)}>
                Make the first one
              </Link>
            )}
          </Empty>
        )}
        {found.data && found.data.length > 0 && !rows.length && (
          <p className="p-8 text-center text-ink3">No page reader has “{search}”.</p>
        )}
        {rows.length > 0 && (
          <ul className="sheet-card">
            {rows.map((reader) => (
              <Row key={reader.key} blog={blog} reader={reader} editor={editor} />
            ))}
          </ul>
        )}
      </div>
    </>
  );
}
