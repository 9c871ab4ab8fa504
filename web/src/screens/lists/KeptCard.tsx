import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import type { ListUser } from "@/api/campaigns";
import { keys } from "@/api/keys";
import { useMay } from "@/api/useRole";
import { useToldChange } from "@/components/useToldChange";
import { desk } from "@/lib/blog-path";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";

interface KeptCardProps {
  blog: string;
  name: string;
  /** Its size in words. */
  size: string;
  what: "list" | "table";
  /** The campaigns whose rules use it. */
  users: readonly ListUser[];
  /** The content and extension of a downloaded file. */
  file: { text: string; ending: "txt" | "csv" };
  remove: () => Promise<void>;
  form: (done: () => void) => ReactNode;
  children: ReactNode;
}

/** A word list or table: viewed, edited, and removed while no rule uses it. */
export function KeptCard({ blog, name, size, what, users, file, remove, form, children }: KeptCardProps) {
  const [editing, setEditing] = useState(false);
  const editor = useMay()("editor");
  const removing = useToldChange(remove, { refresh: [keys.blog(blog)] });
  if (editing) return form(() => setEditing(false));
  return (
    <section aria-label={name} className="sheet-card p-4">
      <div className="flex items-center gap-3">
        <h2 className="text-[15px]">{name}</h2>
        <span className="text-ink3">{size}</span>
        <span className="ml-auto flex gap-2">
          <a
            className="inline-flex items-center px-1 text-ink2 underline hover:text-ink"
            href={`data:text/plain;charset=utf-8,${encodeURIComponent(file.text)}`}
            download={`${name}.${file.ending}`}
          >
            Download
          </a>
          {editor && (
            <>
              <Button small onClick={() => setEditing(true)}>
                Edit
              </Button>
              <Confirm
                trigger={
                  <Button small look="danger">
                    Remove
                  </Button>
                }
                title={`Remove “${name}”?`}
                text={
                  users.length
                    ? `It is used by ${users.map((user) => user.name).join(", ")}. Take it out of their rules first.`
                    : `Its ${size} are lost. No rule uses it.`
                }
                action={`Remove ${what}`}
                onConfirm={() => removing.mutate()}
              />
            </>
          )}
        </span>
      </div>
      {children}
      <p className="mt-2 text-xs text-ink3">
        {users.length ? "Used by " : "No campaign uses it."}
        {users.map((one, place) => (
          <span key={one.slug}>
            {place > 0 && ", "}
            <Link className="text-verd underline" to={desk.bench(blog, one.slug)}>
              {one.name}
            </Link>
          </span>
        ))}
      </p>
    </section>
  );
}
