import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { campaignsBySourceQuery, type ListUser } from "@/api/campaigns";
import { type Health, opmlAddress, type Source, type SourceSort, sourcesQuery } from "@/api/sources";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { plural, since } from "@/lib/format";
import { HEALTH, healthWords, shortHealth } from "@/lib/health";
import { Button, buttonLook } from "@/ui/Button";
import { Lozenge } from "@/ui/Lozenge";
import { Spark } from "@/ui/Spark";
import { WordSelect } from "@/ui/WordSelect";
import { SourceMarks } from "./SourceMarks";
import { TakePage } from "./TakePage";
import { Together } from "./Together";

const SORTS = [
  { value: "title", label: "by title" },
  { value: "added", label: "newest first" },
  { value: "read", label: "last read first" },
  { value: "health", label: "those that need you first" },
] as const;

const HEALTHS: readonly { value: Health | "any"; label: string }[] = [
  { value: "any", label: "any health" },
  ...(["failing", "gone", "changed", "unsteady", "quiet", "unread", "ok"] as const).map((value) => ({
    value,
    label: HEALTH[value].name,
  })),
];

/** What an address asks for, where it is one of the options. */
function oneOf<T extends string>(options: readonly { value: T }[], asked: string | null, usual: T): T {
  return options.find(({ value }) => value === asked)?.value ?? usual;
}

const ANY_LABEL = "-any-";

/** The health of a source; the tooltip has the whole sentence. */
function HealthWords({ source }: { source: Source }) {
  const words = healthWords(source);
  if (!source.read_at && !words) return <span className="text-ink3">not read yet</span>;
  if (!words && source.read_at) return <span className="text-ink3">read {since(source.read_at)}</span>;
  const bad = HEALTH[source.health].mark === "refused";
  return (
    <span className={bad ? "text-madder" : "text-ochre"} title={words}>
      {shortHealth(source)}
    </span>
  );
}

interface RowProps {
  blog: string;
  source: Source;
  campaigns: readonly ListUser[];
  picked: boolean;
  onPick: (on: boolean) => void;
}

function Row({ blog, source, campaigns, picked, onPick }: RowProps) {
  return (
    <li className="grid grid-cols-[16px_16px_minmax(0,1fr)_110px_minmax(0,260px)_100px] items-center gap-4 border-t border-line2 px-5 py-2.5 first:border-0 hover:bg-chalk">
      <input
        type="checkbox"
        aria-label={`Pick ${source.title}`}
        checked={picked}
        onChange={(event) => onPick(event.target.checked)}
      />
      <Lozenge kind={HEALTH[source.health].mark} label={HEALTH[source.health].name} />
      <div className="min-w-0">
        <Link className="font-semibold hover:text-verd" to={desk.source(blog, source.key)}>
          {source.title}
        </Link>{" "}
        <SourceMarks source={source} />
        <p className="truncate text-[11.5px] text-ink3">
          {source.format === "Single pages" ? "taken one by one, by their addresses" : source.url}
        </p>
      </div>
      <span className="text-xs text-ink2">
        {source.format}
        <span className="block text-ink3">{plural(source.items, "item")}</span>
      </span>
      <span className="min-w-0 text-xs">
        <span className="line-clamp-1">
          <HealthWords source={source} />
        </span>
        <span className="block truncate text-ink3">
          {campaigns.length
            ? `used by ${campaigns.map(({ name }) => name).join(", ")}`
            : "used by no campaign"}
        </span>
      </span>
      <Spark days={source.days} label={`Items a day over two weeks: ${source.days.join(", ")}`} />
    </li>
  );
}

export default function Sources() {
  const { blog = "" } = useParams();
  const may = useMay();
  const [asked] = useSearchParams();
  const [search, setSearch] = useState(asked.get("search") ?? "");
  const [sort, setSort] = useState<SourceSort>(oneOf(SORTS, asked.get("sort"), "title"));
  const [health, setHealth] = useState<Health | "any">(oneOf(HEALTHS, asked.get("health"), "any"));
  const [label, setLabel] = useState(ANY_LABEL);
  const [offset, setOffset] = useState(0);
  const [taking, setTaking] = useState(false);
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const [all, setAll] = useState(false);
  const narrowed = search !== "" || health !== "any" || label !== ANY_LABEL;
  const sources = useQuery(
    sourcesQuery(
      blog,
      search,
      sort,
      offset,
      PAGE,
      health === "any" ? null : health,
      label === ANY_LABEL ? "" : label,
    ),
  );
  const labels = sources.data?.labels ?? [];
  const pick = (key: string, on: boolean) => {
    setAll(false);
    setPicked((before) => new Set(on ? [...before, key] : [...before].filter((one) => one !== key)));
  };
  const pickNone = () => {
    setAll(false);
    setPicked(new Set());
  };
  const narrow = (change: () => void) => {
    change();
    setOffset(0);
    // All that were found are others now.
    if (all) pickNone();
  };
  const rows = sources.data?.rows;
  const shown = rows?.map(({ key }) => key) ?? [];
  const uses = useQuery(campaignsBySourceQuery(blog, shown)).data ?? {};
  return (
    <>
      <Head
        title="Sources"
        facts={
          <span className="text-ink3">
            where items come from,{" "}
            <WordSelect label="Order" value={sort} options={SORTS} onChange={setSort} />,{" "}
            <WordSelect
              label="Health"
              value={health}
              options={HEALTHS}
              onChange={(next) => narrow(() => setHealth(next as Health | "any"))}
            />
            {labels.length > 0 && (
              <>
                ,{" "}
                <WordSelect
                  label="Label"
                  value={label}
                  options={[
                    { value: ANY_LABEL, label: "any label" },
                    ...labels.map((label) => ({ value: label, label: label })),
                  ]}
                  onChange={(next) => narrow(() => setLabel(next))}
                />
              </>
            )}
          </span>
        }
      >
        <SearchBox label="Find a source" value={search} onChange={(text) => narrow(() => setSearch(text))} />
        <a className={buttonLook("plain")} href={opmlAddress(blog)} download>
          As OPML
        </a>
        {may("editor") && (
          <>
            <Button onClick={() => setTaking(true)}>Take one page</Button>
            <Link className={buttonLook("primary")} to={desk.addSources(blog)}>
              Add feeds
            </Link>
          </>
        )}
      </Head>
      {taking && <TakePage blog={blog} onClose={() => setTaking(false)} />}
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {sources.error && <ErrorNote error={sources.error} onRetry={sources.refetch} />}
        {sources.isPending && <Loading what="sources" />}
        {rows?.length === 0 && (
          <Empty
            title={narrowed ? "No source found" : "No source yet"}
            text={
              narrowed
                ? "Search for other words, or choose another health."
                : "Add a feed by its address, or by that of its site."
            }
          >
            {!narrowed && (
              <Link className={buttonLook("primary")} to={desk.addSources(blog)}>
                Add feeds
              </Link>
            )}
          </Empty>
        )}
        {rows && rows.length > 0 && (
          <div className="sheet-card">
            {picked.size > 0 && may("editor") && (
              <Together
                blog={blog}
                picked={picked}
                found={{
                  search,
                  health: health === "any" ? null : health,
                  label: label === ANY_LABEL ? "" : label,
                  total: sources.data?.total ?? 0,
                }}
                all={all}
                labels={labels}
                onAll={() => {
                  setPicked(new Set(shown));
                  setAll(true);
                }}
                onDone={pickNone}
              />
            )}
            <ul aria-label="Sources">
              {rows.map((source) => (
                <Row
                  key={source.key}
                  blog={blog}
                  source={source}
                  campaigns={uses[source.key] ?? []}
                  picked={all || picked.has(source.key)}
                  onPick={(on) => pick(source.key, on)}
                />
              ))}
            </ul>
          </div>
        )}
        {sources.data && (
          <Paging offset={offset} size={PAGE} total={sources.data.total} onChange={setOffset} />
        )}
      </div>
    </>
  );
}
