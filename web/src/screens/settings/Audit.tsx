import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { auditQuery } from "@/api/blogs";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { PAGE, Paging, SEARCHED } from "@/components/Paging";
import { SearchBox } from "@/components/SearchBox";
import { AUDIT_KINDS } from "@/lib/audit";
import { Scroll } from "@/ui/Scroll";
import { WordSelect } from "@/ui/WordSelect";
import { AuditRow } from "./AuditRow";
import { SettingsTabs } from "./SettingsTabs";

/** The audit, which nobody can change. */
export default function Audit() {
  const { blog = "" } = useParams();
  const [kind, setKind] = useState("-any-");
  const [search, setSearch] = useState("");
  const [offset, setOffset] = useState(0);
  const found = useQuery(auditQuery(blog, kind === "-any-" ? "" : kind, search, offset, PAGE));
  const narrowed = search !== "" || kind !== "-any-";
  return (
    <>
      <Head title="Audit list" facts={<SettingsTabs />}>
        <span className="text-ink3">
          about{" "}
          <WordSelect
            label="Kind"
            value={kind}
            options={AUDIT_KINDS}
            onChange={(next) => {
              setKind(next);
              setOffset(0);
            }}
          />
        </span>
        <SearchBox
          label="Find a name or thing"
          value={search}
          onChange={(text) => {
            setSearch(text);
            setOffset(0);
          }}
        />
      </Head>
      <Scroll label="Entries" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="the audit list" />}
        {found.data?.total === 0 && (
          <Empty
            title={narrowed ? "Nothing found" : "Nothing yet"}
            text={
              narrowed ? "Search for other words, or choose everything." : "What people change stands here."
            }
          />
        )}
        {found.data && found.data.total > 0 && (
          <div className="sheet-card">
            <ul aria-label="Audit list">
              {found.data.rows.map((entry) => (
                <AuditRow key={entry.id} entry={entry} />
              ))}
            </ul>
            <Paging
              order="newest first"
              offset={offset}
              size={PAGE}
              total={found.data.total}
              endsAt={search ? SEARCHED : undefined}
              onChange={setOffset}
            />
          </div>
        )}
      </Scroll>
    </>
  );
}
