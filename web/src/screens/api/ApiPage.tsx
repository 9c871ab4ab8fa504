import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { OPENAPI_ADDRESS, openApiQuery } from "@/api/openapi";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { SearchBox } from "@/components/SearchBox";
import { desk } from "@/lib/blog-path";
import { buttonLook } from "@/ui/Button";
import { Scroll } from "@/ui/Scroll";
import { operationsOf } from "./operations";

/** Every operation of the API, with an example of a call. */
export default function ApiPage() {
  const { blog = "" } = useParams();
  const found = useQuery(openApiQuery);
  const [search, setSearch] = useState("");
  const groups = found.data ? operationsOf(found.data, search) : [];
  return (
    <>
      <Head title="API" facts={<span className="text-ink3">what programs can do here</span>}>
        <SearchBox label="Find an operation" value={search} onChange={setSearch} />
        <a className={buttonLook("plain")} href={OPENAPI_ADDRESS} download>
          As OpenAPI
        </a>
      </Head>
      <Scroll label="Operations" className="min-h-0 flex-1 p-5">
        {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
        {found.isPending && <Loading what="the API" />}
        {found.data && (
          <div className="mx-auto max-w-4xl space-y-4">
            <p className="text-ink2">
              A program shows its token with each call. You make tokens under{" "}
              <Link className="text-verd underline" to={desk.account(blog)}>
                Your account
              </Link>
              .
            </p>
            <pre className="overflow-auto rounded-lg bg-sunk p-3 font-mono text-xs">
              {`curl -H "Authorization: Bearer glyptarch_…" \\\n  ${window.location.origin}/api/blogs/${blog}/posts?state=held`}
            </pre>
            {groups.length === 0 && <p className="p-8 text-center text-ink3">No operation has “{search}”.</p>}
            {groups.map((group) => (
              <section key={group.name} aria-label={group.name} className="sheet-card">
                <h2 className="border-b border-line px-5 py-2 text-base">{group.name}</h2>
                <ul>
                  {group.operations.map((operation) => (
                    <li
                      key={operation.id}
                      className="grid grid-cols-[60px_minmax(0,1fr)] gap-x-3 border-t border-line2 px-5 py-2 first:border-0"
                    >
                      <span className="font-mono text-xs font-semibold text-verd">{operation.method}</span>
                      <span className="min-w-0">
                        <code className="font-mono text-xs break-all">{operation.path}</code>
                        <span className="block text-ink2">{operation.text}</span>
                      </span>
                    </li>
                  ))}
                </ul>
              </section>
            ))}
          </div>
        )}
      </Scroll>
    </>
  );
}
