import { useState } from "react";
import { useNavigate } from "react-router";
import { type Blog, removeBlog } from "@/api/blogs";
import { keys } from "@/api/keys";
import { useChange } from "@/api/useChange";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

/** Removes the whole blog after its name was typed. */
export function RemoveBlog({ blog }: { blog: Blog }) {
  const navigate = useNavigate();
  const [asking, setAsking] = useState(false);
  const [typed, setTyped] = useState("");
  const removing = useChange(() => removeBlog(blog.slug), {
    refresh: [keys.blogs()],
    onDone: () => navigate("/"),
  });
  return (
    <section className="sheet-card p-5" aria-labelledby="remove-blog">
      <h2 id="remove-blog" className="text-base">
        Remove the blog
      </h2>
      <p className="mt-1 mb-3 text-ink2">
        Readers and editors see it no more, and its campaigns stop. You can restore it for 30 days, under
        “Your account”; then it is deleted with all its posts.
      </p>
      <Button look="danger" onClick={() => setAsking(true)}>
        Remove {blog.title}
      </Button>
      <Dialog
        open={asking}
        onOpenChange={setAsking}
        title={`Remove “${blog.title}”?`}
        description="All its posts are off the web at once."
      >
        <Field label={`Type the name of the blog: ${blog.title}`}>
          <input className={inputLook} value={typed} onChange={(event) => setTyped(event.target.value)} />
        </Field>
        {removing.error && <p className="mt-3 font-medium text-madder">{removing.error.message}</p>}
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => setAsking(false)}>Cancel</Button>
          <Button
            look="danger"
            disabled={typed.trim() !== blog.title}
            busy={removing.isPending}
            onClick={() => removing.mutate()}
          >
            Remove the blog
          </Button>
        </div>
      </Dialog>
    </section>
  );
}
