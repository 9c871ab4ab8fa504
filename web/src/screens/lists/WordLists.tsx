import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { blogQuery } from "@/api/blogs";
import { libraryUsesQuery } from "@/api/campaigns";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { SearchBox } from "@/components/SearchBox";
import { foundLists, foundTables } from "@/lib/found-lists";
import { LibraryTabs } from "@/screens/library/LibraryTabs";
import { Button } from "@/ui/Button";
import { TermTableCard } from "./TermTableCard";
import { TermTableForm } from "./TermTableForm";
import { WordListCard } from "./WordListCard";
import { WordListForm } from "./WordListForm";

/** Terms shared by the rules of several campaigns. */
export default function WordLists() {
  const { blog = "" } = useParams();
  const editor = useMay()("editor");
  const [adding, setAdding] = useState(false);
  const [tabling, setTabling] = useState(false);
  const found = useQuery(blogQuery(blog));
  const uses = useQuery(libraryUsesQuery(blog)).data;
  const [search, setSearch] = useState("");
  const lists = foundLists(found.data?.word_lists ?? [], search);
  const tables = foundTables(found.data?.term_tables ?? [], search);
  const none = found.data && !found.data.word_lists.length && !found.data.term_tables.length;
  return (
    <>
      <Head title="Word lists" facts={<LibraryTabs />}>
        <SearchBox label="Find a list or term" value={search} onChange={setSearch} />
        {editor && (
          <>
            <Button onClick={() => setTabling(true)} disabled={tabling}>
              New table
            </Button>
            <Button look="primary" onClick={() => setAdding(true)} disabled={adding}>
              New list
            </Button>
          </>
        )}
      </Head>
      <div className="min-h-0 flex-1 space-y-3 overflow-auto p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="word lists" rows={3} />}
        {adding && <WordListForm blog={blog} list={null} onDone={() => setAdding(false)} />}
        {none && !adding && !tabling && (
          <Empty title="No word list yet" text="Keep terms here that several campaigns look for, or refuse.">
            <Button look="primary" onClick={() => setAdding(true)}>
              Make the first one
            </Button>
          </Empty>
        )}
        {found.data && !none && !lists.length && !tables.length && (
          <p className="p-8 text-center text-ink3">No list and no table has “{search}”.</p>
        )}
        {lists.map(({ list, terms }) => (
          <WordListCard
            key={list.key}
            blog={blog}
            list={list}
            terms={terms}
            users={uses?.lists[list.key] ?? []}
          />
        ))}
        {tabling && <TermTableForm blog={blog} table={null} onDone={() => setTabling(false)} />}
        {tables.map(({ table, lines }) => (
          <TermTableCard
            key={table.key}
            blog={blog}
            table={table}
            lines={lines}
            users={uses?.tables[table.key] ?? []}
          />
        ))}
      </div>
    </>
  );
}
