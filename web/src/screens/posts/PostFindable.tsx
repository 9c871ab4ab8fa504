import { useQuery } from "@tanstack/react-query";
import { findableQuery } from "@/api/posts";
import { FormError } from "@/components/FormError";
import { plural } from "@/lib/format";
import { lackWords } from "./findable-words";

/** How a post is found and shared, with what it lacks for that. */
export function PostFindable({ blog, id }: { blog: string; id: number }) {
  const found = useQuery(findableQuery(blog, id));
  if (found.error) return <FormError error={found.error} />;
  if (!found.data) return null;
  const { title, description, address, lacks, mapped, original } = found.data;
  return (
    <details className="mb-4 border-b border-line2 pb-3">
      <summary className="cursor-pointer">
        <h2 className="inline text-base">Found and shared</h2>{" "}
        <span className={lacks.length ? "text-ochre" : "text-verd"}>
          {lacks.length ? `lacks ${plural(lacks.length, "thing")}` : "lacks nothing"}
        </span>
      </summary>
      <div className="mt-2 rounded-md bg-chalk p-3">
        <p className="font-medium text-[15px]">{title}</p>
        <p className="truncate text-xs text-verd">{address}</p>
        <p className="text-xs text-ink2">{description || "no description"}</p>
      </div>
      {lacks.length > 0 && (
        <ul aria-label="What it lacks" className="mt-2 list-disc space-y-1 pl-4 text-xs">
          {lacks.map((one) => (
            <li key={one.lack}>{lackWords(one)}</li>
          ))}
        </ul>
      )}
      <p className="mt-2 text-xs text-ink3">
        {mapped ? "It is in the site map while it is published." : "It is in no site map."}
        {original && ` The original: ${original}`}
      </p>
    </details>
  );
}
