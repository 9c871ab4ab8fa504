import type { AskTest } from "@/api/platforms";
import { moment, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { JsonTree } from "./JsonTree";

interface AskTestResultProps {
  test: AskTest;
  /** Set where values of the answer can be picked. */
  onPick?: ((path: readonly (string | number)[]) => void) | undefined;
  /** Asks with other parameters, where this test brought nothing. */
  onWider?: ((parameters: Record<string, unknown>) => void) | undefined;
}

/** The result of one test request. */
export function AskTestResult({ test, onPick, onWider }: AskTestResultProps) {
  const most = test.items.length;
  const total = test.total ?? null;
  return (
    <section aria-label="What came" className="space-y-3">
      {test.error ? (
        <p role="alert" className="rounded-md bg-madder-wash px-3 py-2 text-madder">
          {test.error}
          {test.wider && onWider && (
            <Button small className="ml-2" onClick={() => onWider(test.wider?.parameters ?? {})}>
              Ask {test.wider.name}
            </Button>
          )}
        </p>
      ) : (
        <p className="rounded-md bg-verd-wash px-3 py-2 text-verd-deep">
          {total === null
            ? `${plural(most, "item")} on the first page${test.more ? ", and there are more" : ""}.`
            : `${plural(total, "item")} in all.`}
          {test.described && ` Asked for: ${test.described}.`}
        </p>
      )}
      {most > 0 && (
        <>
          <ul className="divide-y divide-line2">
            {test.items.map((item) => (
              <li key={`${item.link}-${item.title}`} className="flex items-center gap-3 py-1.5">
                {item.picture ? (
                  <img src={item.picture} alt="" className="h-8 w-12 shrink-0 rounded object-cover" />
                ) : (
                  <span className="h-8 w-12 shrink-0 rounded bg-sunk" />
                )}
                <span className="min-w-0">
                  <span className="block truncate font-medium">{item.title || "no title"}</span>
                  <span className="block text-xs text-ink3">
                    {item.published ? moment(item.published) : "no date"} · {plural(item.words, "word")}
                  </span>
                </span>
              </li>
            ))}
          </ul>
          <p className="text-xs text-ink3">
            Filled in so many of them:{" "}
            {Object.entries(test.fields)
              .filter(([, filled]) => filled > 0)
              .map(([name, filled]) => `${name} ${filled}`)
              .join(" · ")}
          </p>
        </>
      )}
      {onPick && test.answer !== null && test.answer !== undefined && (
        <div className="rounded-[10px] border border-line bg-sheet p-2 text-xs">
          <h3 className="px-1 font-semibold">The answer</h3>
          <p className="px-1 text-ink3">
            Press Point at a field, then click its value in the first entry. The path of the list is written
            as well.
          </p>
          <ul className="mt-1">
            <JsonTree name="answer" value={test.answer} path={[]} onPick={onPick} open />
          </ul>
        </div>
      )}
    </section>
  );
}
