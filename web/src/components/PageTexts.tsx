import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { keys } from "@/api/keys";
import { askPages, pageTextsQuery } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";

const OUTCOMES: Record<string, string> = {
  taken: "have the text of their page",
  shorter: "have as much in the feed",
  not_found: "have no text where it was looked for",
  unread: "have a page that cannot be read",
  consent: "have a page that asks for consent",
  login: "have a page that asks for a sign-in",
  paywall: "are behind a pay-wall",
  error: "have an error page",
  scripted: "have a page that scripts draw",
};

/** The number of items with the text of their pages, the rest, and the button to fetch them. */
export function PageTexts({ blog, source }: { blog: string; source: string }) {
  const queries = useQueryClient();
  const editor = useMay()("editor");
  const texts = useQuery(pageTextsQuery(blog, source)).data;
  const asking = useChange((again: boolean) => askPages(blog, source, again), {
    refresh: [keys.source(blog, source, "texts")],
  });
  const underWay = texts?.under_way ?? false;
  const before = useRef(underWay);
  useEffect(() => {
    // New texts change the results of rules.
    if (before.current && !underWay) {
      queries.invalidateQueries({ queryKey: keys.proof(blog) });
      queries.invalidateQueries({ queryKey: keys.source(blog, source) });
    }
    before.current = underWay;
  }, [underWay, queries, blog, source]);
  if (!texts) return null;
  const { outcomes, waiting, titles } = texts;
  const asked = Object.values(outcomes).reduce((sum, one) => sum + one, 0);
  const without = asked - (outcomes.taken ?? 0);
  const told = Object.entries(outcomes)
    .sort((first, second) => second[1] - first[1])
    .map(([outcome, number]) => `${number} ${OUTCOMES[outcome] ?? outcome}`);
  return (
    <div className="text-xs leading-normal text-ink2">
      {underWay ? (
        <div className="flex items-center gap-2">
          <progress
            aria-label="Pages asked"
            className="h-2 w-40 shrink-0 appearance-none overflow-hidden rounded bg-sunk [&::-webkit-progress-bar]:bg-sunk [&::-webkit-progress-value]:bg-verd [&::-moz-progress-bar]:bg-verd"
            max={asked + waiting}
            value={asked}
          />
          <span role="status">
            {plural(waiting, "page")} to go, {asked} asked
          </span>
        </div>
      ) : (
        <p>
          {told.length > 0 && `Of the items, ${told.join(", ")}. `}
          {waiting > 0 ? (
            <span title={titles.join("\n")}>
              The pages of {plural(waiting, "item")} were not asked yet
              {titles[0] ? `, the newest is “${titles[0]}”` : ""}.
            </span>
          ) : (
            asked > 0 && "Every page was asked."
          )}
        </p>
      )}
      {editor && !underWay && (waiting > 0 || without > 0) && (
        <p className="mt-1.5 flex gap-2">
          {waiting > 0 && (
            <Button small busy={asking.isPending} onClick={() => asking.mutate(false)}>
              Ask them now
            </Button>
          )}
          {without > 0 && (
            <Button small busy={asking.isPending} onClick={() => asking.mutate(true)}>
              Ask again those without a text
            </Button>
          )}
        </p>
      )}
      {asking.error && (
        <p role="alert" className="text-madder">
          {asking.error.message}
        </p>
      )}
    </div>
  );
}
