import { Lozenge } from "@/ui/Lozenge";

const NAMES: Record<string, string> = {
  title: "Title",
  link: "Link",
  body: "Full text",
  summary: "Summary",
  author: "Author",
  categories: "Categories",
  published: "Date",
  picture: "Picture",
  film: "Film",
  sound: "Sound",
};

function kind(filled: number, items: number) {
  if (filled === 0) return "refused";
  return filled === items ? "publish" : "hold";
}

/** The fields of a feed, with the number of items that have each. */
export function FieldsFilled({ fields, items }: { fields: Record<string, number>; items: number }) {
  return (
    <dl aria-label="Fields it fills" className="grid grid-cols-2 gap-x-4 gap-y-1 self-start">
      {Object.entries(NAMES).map(([key, name]) => {
        const filled = fields[key] ?? 0;
        return (
          <div key={key} className="flex items-center gap-1.5">
            <Lozenge kind={kind(filled, items)} />
            <dt className={filled ? "" : "text-ink3"}>{name}</dt>
            <dd className="ml-auto text-xs text-ink3">
              {filled === items && items > 0 ? "all" : filled || "none"}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
