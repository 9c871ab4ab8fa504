import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { picturesQuery } from "@/api/media";
import { WordSelect } from "@/ui/WordSelect";

const NONE = "-none-";
const FIRST = { search: "", label: "", uploaded: false, offset: 0 };

/** The label of the library's pictures for lead images. */
export function LeadPool({ pool, onChange }: { pool: string; onChange: (pool: string) => void }) {
  const { blog = "" } = useParams();
  const labels = useQuery(picturesQuery(blog, FIRST, 1)).data?.labels ?? [];
  // A label without pictures is still shown as the choice.
  const known = pool && !labels.includes(pool) ? [...labels, pool] : labels;
  return (
    <>
      ; of the library{" "}
      <WordSelect
        label="Pictures of the library"
        value={pool || NONE}
        options={[
          { value: NONE, label: "none by label" },
          ...known.map((label) => ({ value: label, label: `those labelled “${label}”` })),
        ]}
        onChange={(label) => onChange(label === NONE ? "" : label)}
      />
    </>
  );
}
