import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { keys } from "@/api/keys";
import { addName, type NameKind, type NameSort, namesQuery } from "@/api/names";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { MOST_NAMED, PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";
import { Scroll } from "@/ui/Scroll";
import { WordSelect } from "@/ui/WordSelect";
import { KINDS } from "./kinds";
import { LibraryTabs } from "./LibraryTabs";
import { NameRow } from "./NameRow";

const SORTS = [
  { value: "name", label: "by name" },
  { value: "posts", label: "most posts first" },
  { value: "unused", label: "fewest posts first" },
] as const;

/** The categories, tags or bylines of the blog: renamed, put in order, merged. */
export default function Names() {
  const { blog = "", kind: given } = useParams();
  const kind: NameKind = given === "tag" || given === "byline" ? given : "category";
  const words = KINDS[kind];
  const may = useMay();
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  const [name, setName] = useState("");
  const [sort, setSort] = useState<NameSort>("name");
  const narrow = (change: () => void) => {
    change();
    setOffset(0);
  };
  const found = useQuery(namesQuery(blog, kind, search, offset, PAGE, sort));
  const all = useQuery(namesQuery(blog, kind, "", 0, MOST_NAMED)).data?.rows ?? [];
  const adding = useChange(() => addName(blog, kind, name), {
    refresh: [keys.names(blog), keys.blog(blog)],
    onDone: () => setName(""),
  });
  return (
    <>
      <Head title={words.title} facts={<LibraryTabs />}>
        <WordSelect
          label="Order"
          value={sort}
          options={SORTS}
          onChange={(next) => narrow(() => setSort(next))}
        />
        <SearchBox
          label={`Find a ${words.one}`}
          value={search}
          onChange={(text) => narrow(() => setSearch(text))}
        />
      </Head>
      <Scroll label="Names" className="min-h-0 flex-1 p-5">
        <div className="mx-auto max-w-4xl space-y-3">
          {may("editor") && (
            <form
              className="flex max-w-sm gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                adding.mutate();
              }}
            >
              <input
                aria-label={`New ${words.one}`}
                placeholder={`New ${words.one}`}
                className={inputLook}
                value={name}
                required
                maxLength={80}
                onChange={(event) => setName(event.target.value)}
              />
              <Button type="submit" busy={adding.isPending}>
                Add
              </Button>
            </form>
          )}
          <FormError error={adding.error} />
          {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
          {found.isPending && <Loading what={words.many} />}
          {found.data?.total === 0 && (
            <Empty
              title={search ? `No ${words.one} found` : `No ${words.one} yet`}
              text={search ? "Search for other words." : words.empty}
            />
          )}
          {found.data && found.data.total > 0 && (
            <div className="sheet-card">
              <ul aria-label={words.many}>
                {found.data.rows.map((row) => (
                  <NameRow key={row.id} blog={blog} kind={kind} row={row} all={all} editor={may("editor")} />
                ))}
              </ul>
              <Paging offset={offset} size={PAGE} total={found.data.total} onChange={setOffset} />
            </div>
          )}
        </div>
      </Scroll>
    </>
  );
}
