import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { useTell } from "@/ui/Toasts";

interface KeptCardProps {
  blog: string;
  name: string;
  /** How much it holds, in words. */
  size: string;
  what: "list" | "table";
  remove: () => Promise<void>;
  form: (done: () => void) => ReactNode;
  children: ReactNode;
}

/** Something kept for the blog that rules go by: looked at, edited, removed while no rule names it. */
export function KeptCard({ blog, name, size, what, remove, form, children }: KeptCardProps) {
  const queries = useQueryClient();
  const tell = useTell();
  const [editing, setEditing] = useState(false);
  const removing = useMutation({
    mutationFn: remove,
    onSuccess: () => queries.invalidateQueries({ queryKey: keys.blog(blog) }),
    onError: (error) => tell(error.message, { tone: "bad" }),
  });
  if (editing) return form(() => setEditing(false));
  return (
    <section aria-label={name} className="rounded-[10px] border border-line bg-sheet p-4">
      <div className="flex items-center gap-3">
        <h2 className="text-[15px]">{name}</h2>
        <span className="text-ink3">{size}</span>
        <span className="ml-auto flex gap-2">
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
            text={`Its ${size} are lost. A ${what} that rules still name cannot be removed.`}
            action={`Remove ${what}`}
            onConfirm={() => removing.mutate()}
          />
        </span>
      </div>
      {children}
    </section>
  );
}
