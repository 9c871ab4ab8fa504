import { useState } from "react";
import { Link } from "react-router";
import { checkAddresses } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { desk } from "@/lib/blog-path";
import { CheckedCard } from "@/screens/sources/CheckedCard";
import type { SaidRight } from "@/screens/sources/rights";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { inputLook } from "@/ui/Field";

interface AddFeedDialogProps {
  blog: string;
  /** Gets the key of the new source. */
  onAdded: (key: string) => void;
  onClose: () => void;
}

/** Makes a feed a source without leaving the screen: its address, what it gives, its name and rights. */
export function AddFeedDialog({ blog, onAdded, onClose }: AddFeedDialogProps) {
  const [address, setAddress] = useState("");
  const [right, setRight] = useState<SaidRight>("unsaid");
  const reading = useChange(async (wanted: string) => (await checkAddresses(blog, [wanted]))[0] ?? null);
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="Add a feed"
      description="It is read and shown before it is kept. What you have filled in behind this stays."
    >
      {/* What is sent here is not sent to the form behind, of which this is a part. */}
      <div onSubmit={(event) => event.stopPropagation()}>
        <form
          className="flex items-center gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (address.trim()) reading.mutate(address.trim());
          }}
        >
          <input
            aria-label="Address of a feed or site"
            className={`${inputLook} font-mono text-xs`}
            value={address}
            spellCheck={false}
            maxLength={2000}
            placeholder="https://club.example/feed.xml"
            onChange={(event) => setAddress(event.target.value)}
          />
          <Button type="submit" look="primary" busy={reading.isPending} disabled={!address.trim()}>
            Read it
          </Button>
        </form>
        <FormError error={reading.error} />
        <div className="mt-4" aria-live="polite">
          {(reading.isPending || reading.data) && (
            <CheckedCard
              key={reading.variables}
              blog={blog}
              address={reading.variables ?? address}
              checked={reading.isPending ? null : (reading.data ?? null)}
              onFollow={(url) => {
                setAddress(url);
                reading.mutate(url);
              }}
              right={right}
              onRight={setRight}
              onAdded={(key) => {
                onAdded(key);
                onClose();
              }}
            />
          )}
        </div>
      </div>
      <p className="mt-4 text-xs text-ink3">
        A site without a feed, a platform or a list of feeds:{" "}
        <Link className="font-semibold text-verd" to={desk.addSources(blog)}>
          all ways to add sources
        </Link>
      </p>
    </Dialog>
  );
}
