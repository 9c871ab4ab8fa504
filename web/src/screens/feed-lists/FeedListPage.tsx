import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { feedListQuery, type ListOutcome, readListAgain } from "@/api/feed-lists";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { PagedSheet } from "@/components/PagedSheet";
import { PAGE } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { listSize, OUTCOME_ORDER, OUTCOMES } from "@/lib/feed-list";
import { count, moment, plural } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { Menu } from "@/ui/Menu";
import { Segmented } from "@/ui/Segmented";
import { EntryRow } from "./EntryRow";

/** The report of a list of feeds: what became of each entry. */
export default function FeedListPage() {
  const { blog = "", number = "" } = useParams();
  const navigate = useNavigate();
  const editor = useMay()("editor");
  const [outcome, setOutcome] = useState<ListOutcome | "all">("all");
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  const id = Number(number);
  const found = useQuery(feedListQuery(blog, id, outcome === "all" ? null : outcome, search, offset, PAGE));
  const again = useChange(() => readListAgain(blog, id), {
    refresh: [keys.feedList(blog, id), keys.sources(blog)],
  });
  const list = found.data?.feed_list;
  const labels = found.data?.labels ?? [];
  const failed = list?.counts.failed ?? 0;
  const narrowed = outcome !== "all" || search !== "";
  return (
    <>
      <Head
        title={list?.name ?? "List of feeds"}
        facts={
          list && (
            <span className="text-ink3">
              {plural(listSize(list), "entry", "entries")} of {moment(list.made_at)}
              {list.by && ` by ${list.by}`}, {list.under_way ? "under way" : "done"}
            </span>
          )
        }
      >
        <SearchBox
          label="Find an entry"
          value={search}
          onChange={(text) => {
            setSearch(text);
            setOffset(0);
          }}
        />
        <Link className={buttonLook("plain")} to={desk.feedLists(blog)}>
          All lists
        </Link>
        {editor && failed > 0 && !list?.under_way && (
          <Button busy={again.isPending} onClick={() => again.mutate()}>
            Read {plural(failed, "feed")} again
          </Button>
        )}
        {editor && labels.length > 0 && (
          <Menu
            trigger={<Button look="primary">New campaign</Button>}
            entries={labels.map((label) => ({
              label: `on all with the label ${label}`,
              onSelect: () => navigate(desk.newCampaignOn(blog, label)),
            }))}
          />
        )}
      </Head>
      {again.error && <ErrorNote error={again.error} />}
      {list && (
        <div className="mx-auto w-full max-w-4xl overflow-x-auto px-5 pt-4">
          <Segmented
            label="Outcome"
            value={outcome}
            options={[
              { value: "all", label: `All ${count(listSize(list))}` },
              ...OUTCOME_ORDER.filter((one) => list.counts[one]).map((one) => ({
                value: one,
                label: `${count(list.counts[one] ?? 0)} ${OUTCOMES[one].name}`,
              })),
            ]}
            onChange={(next) => {
              setOutcome(next);
              setOffset(0);
            }}
          />
        </div>
      )}
      <PagedSheet
        order="as in the list"
        label="Entries"
        what="the list"
        page={found}
        offset={offset}
        onOffset={setOffset}
        empty={{
          title: "No entry found",
          text: narrowed ? "Search for other words, or show all." : "This list has no entry.",
        }}
      >
        {(entry) => <EntryRow key={entry.place} blog={blog} entry={entry} />}
      </PagedSheet>
    </>
  );
}
