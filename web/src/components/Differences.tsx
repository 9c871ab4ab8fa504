import type { Difference } from "@/lib/document-diff";

/** The places at which two documents differ, each with what was and what is. */
export function Differences({ differences }: { differences: readonly Difference[] }) {
  return (
    <ul className="space-y-1 text-xs">
      {differences.map((one) => (
        <li key={one.path}>
          <span className="text-ink3">{one.path}</span>
          <br />
          {one.before && <del className="text-madder">{one.before}</del>}{" "}
          {one.after && <ins className="font-semibold text-verd no-underline">{one.after}</ins>}
        </li>
      ))}
    </ul>
  );
}
