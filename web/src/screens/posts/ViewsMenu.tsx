import { useQuery } from "@tanstack/react-query";
import { Bookmark, X } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import { keys } from "@/api/keys";
import { keepView, removeView, viewsQuery } from "@/api/posts";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { Button, buttonLook } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

interface ViewsMenuProps {
  blog: string;
  /** The query of the list as it is shown. */
  query: string;
  reviewer: boolean;
  onOpen: (query: string) => void;
}

/** Saved filters, shared by everybody of the blog. */
export function ViewsMenu({ blog, query, reviewer, onOpen }: ViewsMenuProps) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const views = useQuery(viewsQuery(blog)).data ?? [];
  const refresh = [keys.posts(blog, "views")];
  const keeping = useChange(() => keepView(blog, name.trim(), query), { refresh, onDone: () => setName("") });
  const removing = useChange((number: number) => removeView(blog, number), { refresh });
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className={buttonLook("quiet", true)}>
        <Bookmark size={13} aria-hidden="true" /> Views
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={5}
          className="z-50 w-72 rounded-lg border border-line bg-sheet p-3 shadow-lg"
        >
          {views.length === 0 && <p className="text-ink3">No filter has a name yet.</p>}
          <ul aria-label="Views">
            {views.map((view) => (
              <li key={view.id} className="flex items-center">
                <button
                  type="button"
                  className="min-h-7 flex-1 truncate rounded px-2 text-left font-medium hover:bg-sunk"
                  aria-current={view.query === query}
                  onClick={() => {
                    setOpen(false);
                    onOpen(view.query);
                  }}
                >
                  {view.name}
                </button>
                {reviewer && (
                  <button
                    type="button"
                    aria-label={`Remove the view ${view.name}`}
                    className="inline-flex size-7 items-center justify-center text-ink3 hover:text-madder"
                    onClick={() => removing.mutate(view.id)}
                  >
                    <X size={13} />
                  </button>
                )}
              </li>
            ))}
          </ul>
          {reviewer && (
            <form
              className="mt-2 flex gap-2 border-t border-line2 pt-3"
              onSubmit={(event) => {
                event.preventDefault();
                keeping.mutate();
              }}
            >
              <input
                aria-label="Name of this view"
                placeholder="Keep this filter as…"
                required
                maxLength={80}
                className={inputLook}
                value={name}
                onChange={(event) => setName(event.target.value)}
              />
              <Button type="submit" small busy={keeping.isPending}>
                Keep
              </Button>
            </form>
          )}
          <FormError error={keeping.error ?? removing.error} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
