import { useState } from "react";
import { Link } from "react-router";
import { keys } from "@/api/keys";
import { takePage } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { desk } from "@/lib/blog-path";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

/** Imports one page by its address, without a source for its site. */
export function TakePage({ blog, onClose }: { blog: string; onClose: () => void }) {
  const [url, setUrl] = useState("");
  const taking = useChange((address: string) => takePage(blog, address), { refresh: [keys.sources(blog)] });
  const taken = taking.data;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Take one page"
      description="Its article is captured as an item of “Pages taken by hand”. A campaign with this source makes a post of it."
    >
      <form
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault();
          taking.mutate(url);
        }}
      >
        <Field label="Address of the page" hint="A page reader of its site reads it where there is one.">
          <input
            className={inputLook}
            value={url}
            required
            spellCheck={false}
            placeholder="https://observatory.example/notes/12"
            onChange={(event) => {
              setUrl(event.target.value);
              taking.reset();
            }}
          />
        </Field>
        <FormError error={taking.error} />
        {taken && (
          <p role="status" className="rounded-md bg-verd-wash p-2.5 text-verd-deep">
            {taken.fresh ? "Taken" : "It was taken before, and is up to date"}: “{taken.title}”,{" "}
            {plural(taken.words, "word")}
            {taken.reader && `, read by “${taken.reader}”`}.{" "}
            <Link className="font-semibold underline" to={desk.newCampaign(blog, taken.source)}>
              New campaign on {taken.source_title}
            </Link>
          </p>
        )}
        <div className="flex justify-end gap-2">
          <Button onClick={onClose}>Close</Button>
          <Button type="submit" look="primary" busy={taking.isPending} disabled={!url.trim()}>
            Take it
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
