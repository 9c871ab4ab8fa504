import { useQuery } from "@tanstack/react-query";
import { sourceFactsQuery } from "@/api/sources";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { Spark } from "@/ui/Spark";
import { FieldsFilled } from "./FieldsFilled";

function Counted({ title, rows }: { title: string; rows: readonly { name: string; count: number }[] }) {
  return (
    <div>
      <h3 className="mb-1 text-xs text-ink3">{title}</h3>
      {rows.length === 0 && <p className="text-ink3">none</p>}
      <ul className="flex flex-wrap gap-x-3 gap-y-1">
        {rows.map(({ name, count }) => (
          <li key={name}>
            {name} <span className="text-xs text-ink3">{count}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Facts about a source's newest items: by day, by field, most frequent names. */
export function SourceFacts({
  blog,
  source,
  days,
}: {
  blog: string;
  source: string;
  days: readonly number[];
}) {
  const found = useQuery(sourceFactsQuery(blog, source));
  const facts = found.data;
  if (found.error) return <FormError error={found.error} />;
  if (!facts || facts.items === 0) return null;
  return (
    <section aria-label="What it brings" className="mb-4 sheet-card p-4">
      <div className="grid gap-6 md:grid-cols-[180px_minmax(0,280px)_minmax(0,1fr)]">
        <div>
          <h3 className="mb-1 text-xs text-ink3">Items a day, two weeks</h3>
          <Spark days={days} label={`Items a day over two weeks: ${days.join(", ")}`} />
          <p className="mt-3">{plural(facts.words, "word")} on average</p>
          <p className="text-xs text-ink3">in its newest {plural(facts.items, "item")}</p>
        </div>
        <FieldsFilled fields={facts.fields} items={facts.items} />
        <div className="space-y-3">
          <Counted title="Categories" rows={facts.categories} />
          <Counted title="Hashtags" rows={facts.hashtags} />
        </div>
      </div>
    </section>
  );
}
