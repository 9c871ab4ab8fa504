import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { campaignsQuery } from "@/api/campaigns";
import { desk } from "@/lib/blog-path";
import { useSettled } from "@/lib/useSettled";

interface NameTakenProps {
  blog: string;
  name: string;
  /** The address of a campaign that has this name already. */
  own?: string;
}

/** Warns that another campaign has this name, which is allowed. */
export function NameTaken({ blog, name, own }: NameTakenProps) {
  const settled = useSettled(name.trim());
  const found = useQuery({ ...campaignsQuery(blog, { search: settled }), enabled: settled !== "" });
  const twin = found.data?.rows.find(
    (row) => row.slug !== own && row.name.toLowerCase() === name.trim().toLowerCase(),
  );
  return (
    <p role="status" className="text-xs text-ochre">
      {twin && (
        <>
          There is a campaign named{" "}
          <Link className="underline" to={desk.bench(blog, twin.slug)}>
            {twin.name}
          </Link>{" "}
          already. Two of one name are hard to tell apart.
        </>
      )}
    </p>
  );
}
