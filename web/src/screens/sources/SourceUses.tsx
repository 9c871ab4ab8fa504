import { useState } from "react";
import { Link } from "react-router";
import type { ListUser } from "@/api/campaigns";
import { desk } from "@/lib/blog-path";
import { CheckupDialog } from "@/screens/checkup/CheckupDialog";
import { Button } from "@/ui/Button";

/** The campaigns that use a source, each with its checkup. */
export function SourceUses({ blog, uses }: { blog: string; uses: readonly ListUser[] }) {
  const [asked, setAsked] = useState<ListUser | null>(null);
  if (!uses.length) return null;
  return (
    <section aria-label="Campaigns that use it" className="mb-4 sheet-card px-4 py-2">
      <ul>
        {uses.map((use) => (
          <li key={use.slug} className="flex items-center gap-3 border-t border-line2 py-1.5 first:border-0">
            <Link className="font-medium hover:text-verd" to={desk.bench(blog, use.slug)}>
              {use.name}
            </Link>
            <span className="ml-auto">
              <Button small onClick={() => setAsked(use)}>
                Why is nothing arriving?
              </Button>
            </span>
          </li>
        ))}
      </ul>
      {asked && (
        <CheckupDialog blog={blog} slug={asked.slug} name={asked.name} onClose={() => setAsked(null)} />
      )}
    </section>
  );
}
