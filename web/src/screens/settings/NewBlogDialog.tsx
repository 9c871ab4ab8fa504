import { useState } from "react";
import { useNavigate } from "react-router";
import { makeBlog } from "@/api/blogs";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { desk } from "@/lib/blog-path";
import { slugFrom } from "@/lib/slug";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

/** Creates another blog, and opens it at its first steps. */
export function NewBlogDialog({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const [title, setTitle] = useState("");
  const [address, setAddress] = useState<string | null>(null);
  const slug = address ?? slugFrom(title);
  const time_zone = Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";
  const making = useChange(() => makeBlog({ title, slug, tagline: "", language: "en", time_zone }), {
    refresh: [keys.blogs()],
    onDone: () => {
      onClose();
      navigate(desk.today(slug));
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="New blog"
      description="You will own it, and can invite others."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          making.mutate();
        }}
      >
        <Field label="Name">
          <input
            className={inputLook}
            value={title}
            required
            maxLength={200}
            onChange={(event) => setTitle(event.target.value)}
          />
        </Field>
        <Field
          label="Address"
          hint={`Readers find it at /blog/${slug || "…"}/. It cannot be changed later.`}
          error={faultAt(making.error, "slug")}
        >
          <input
            className={inputLook}
            value={slug}
            required
            maxLength={60}
            onChange={(event) => setAddress(event.target.value)}
          />
        </Field>
        {making.error && !faultAt(making.error, "slug") && (
          <p role="alert" className="font-medium text-madder">
            {making.error.message}
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" busy={making.isPending}>
            Make the blog
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
