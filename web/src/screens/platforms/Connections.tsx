import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams, useSearchParams } from "react-router";
import { type Connection, connectionsQuery, platformsQuery } from "@/api/platforms";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Button } from "@/ui/Button";
import { ConnectionDialog } from "./ConnectionDialog";
import { ConnectionRow } from "./ConnectionRow";

/** The blog's credentials for platforms. */
export default function Connections() {
  const { blog = "" } = useParams();
  const [search] = useSearchParams();
  const wanted = search.get("platform") ?? "";
  const editor = useMay()("editor");
  const [open, setOpen] = useState<Connection | "new" | null>(wanted ? "new" : null);
  const platforms = useQuery(platformsQuery).data ?? [];
  const found = useQuery(connectionsQuery(blog));
  return (
    <>
      <Head
        title="Connections"
        facts={<span className="text-ink3">credentials for platforms, kept encrypted</span>}
      >
        {editor && (
          <Button look="primary" disabled={!platforms.length} onClick={() => setOpen("new")}>
            New connection
          </Button>
        )}
      </Head>
      <div className="min-h-0 flex-1 overflow-auto p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="the connections" />}
        {found.data?.length === 0 && (
          <Empty
            title="No connection yet"
            text="A connection holds the key for a platform with an API. It is checked at once, and its secrets are never shown again."
          />
        )}
        {found.data && found.data.length > 0 && (
          <ul aria-label="Connections" className="sheet-card">
            {found.data.map((one) => (
              <ConnectionRow
                key={one.key}
                blog={blog}
                connection={one}
                platform={platforms.find(({ key }) => key === one.platform)}
                editor={editor}
                onChange={() => setOpen(one)}
              />
            ))}
          </ul>
        )}
      </div>
      {open && platforms.length > 0 && (
        <ConnectionDialog
          blog={blog}
          platforms={platforms}
          connection={open === "new" ? null : open}
          start={wanted}
          onClose={() => setOpen(null)}
        />
      )}
    </>
  );
}
