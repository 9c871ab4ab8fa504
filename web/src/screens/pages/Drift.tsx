import { useQuery } from "@tanstack/react-query";
import { keys } from "@/api/keys";
import { mendQuery, type Reader, type ReaderDocument, takeMend } from "@/api/pages";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { Loading } from "@/components/Loading";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { useTell } from "@/ui/Toasts";
import { partName } from "./document";

function changeWords({ part, was, now }: Reader["drift"][number]): string {
  const [page, name = ""] = part.split(".");
  if (part === "words") return `An article had ${Math.round(was)} words, now ${Math.round(now)}`;
  if (page === "list") return `${partName(name)} found ${Math.round(was)}, now ${Math.round(now)}`;
  return `${partName(name)} was in ${Math.round(was * 100)} % of the articles, now in ${Math.round(now * 100)} %`;
}

/** Where a document finds the list: a selector, or a path in the page's data. */
function placeOf({ list_page }: ReaderDocument): string {
  return list_page.data?.list ?? list_page.link;
}

interface DriftProps {
  blog: string;
  reader: Reader;
  /** Opens the repaired document on the desk, to test it before it is applied. */
  onTry: (document: ReaderDocument) => void;
}

/** The counts that dropped after a change of layout, and the repair. */
export function Drift({ blog, reader, onTry }: DriftProps) {
  const tell = useTell();
  const may = useMay();
  const found = useQuery(mendQuery(blog, reader.key));
  const taking = useChange(() => takeMend(blog, reader.key), {
    refresh: [keys.reader(blog, reader.key), keys.readers(blog), keys.sources(blog), keys.source(blog)],
    onDone: () => tell("The mend is taken. The next reading uses it.", { tone: "good" }),
  });
  const mend = found.data;
  return (
    <section
      aria-label="The layout has changed"
      className="rounded-[10px] border border-madder/40 bg-madder-wash p-3"
    >
      <h3 className="font-semibold text-madder">
        The layout of the site has changed{reader.drifted_at && `, ${moment(reader.drifted_at)}`}
      </h3>
      <ul className="mt-1 list-disc pl-4 text-xs">
        {reader.drift.map((one) => (
          <li key={one.part}>{changeWords(one)}</li>
        ))}
      </ul>
      <p className="mt-1 text-xs text-ink2">New posts from it are held for review until this is mended.</p>
      {found.isPending && <Loading what="a mend" rows={1} />}
      {found.error && <p className="mt-1 text-xs text-madder">{found.error.message}</p>}
      {mend && (
        <div className="mt-2 rounded-md bg-sheet p-2 text-xs">
          <p className="font-mono">
            <s className="text-madder">{placeOf(reader.document)}</s>
          </p>
          <p className="font-mono text-verd">{placeOf(mend.document)}</p>
          <p className="mt-1 text-ink2">
            {mend.known
              ? `It finds ${mend.found} of the ${plural(mend.known, "article")} known from before that the page still names. ${mend.sure ? "Sure." : "Not sure: look at the page first."}`
              : "None of the articles known from before is in the page. This is a guess: look at the page first."}
          </p>
          {may("editor") && (
            <div className="mt-2 flex gap-2">
              <Button small look="primary" busy={taking.isPending} onClick={() => taking.mutate()}>
                Take the mend
              </Button>
              <Button small onClick={() => onTry(mend.document)}>
                Test it first
              </Button>
            </div>
          )}
          {taking.error && <p className="mt-1 text-madder">{taking.error.message}</p>}
        </div>
      )}
    </section>
  );
}
