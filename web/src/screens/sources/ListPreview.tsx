import { useState } from "react";
import { useNavigate } from "react-router";
import { bringInFeeds, type GivenList, type ListPreview as Preview } from "@/api/feed-lists";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { desk } from "@/lib/blog-path";
import { faultWords } from "@/lib/feed-list";
import { count, plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { Pill } from "@/ui/Pill";
import { type SaidRight, sentRight } from "./rights";
import { SayRight } from "./SayRight";

export interface FoundList {
  name: string;
  given: GivenList;
  preview: Preview;
}

function othersWords({ known, double, bad }: Preview): string {
  const parts = [
    known && `${count(known)} known already`,
    double && `${count(double)} named twice`,
    bad && `${count(bad)} without an address of a feed`,
  ].filter(Boolean);
  return parts.length ? `Besides: ${parts.join(", ")}.` : "";
}

/** What a list of feeds would bring, shown before any of them becomes a source. */
export function ListPreview({ blog, list, onClose }: { blog: string; list: FoundList; onClose: () => void }) {
  const navigate = useNavigate();
  const [label, setLabel] = useState("");
  const [right, setRight] = useState<SaidRight>("unsaid");
  const { preview } = list;
  const bringIn = () =>
    bringInFeeds(blog, list.given, list.name, label.trim() ? [label.trim()] : [], sentRight(right));
  const bringing = useChange(bringIn, { onDone: (made) => navigate(desk.feedList(blog, made.id)) });
  const total = preview.fresh + preview.known + preview.double + preview.bad;
  return (
    <section aria-label={list.name} className="mt-4 sheet-card p-4">
      <h2 className="text-[15px] font-semibold">
        {plural(preview.fresh, "new feed")} in {list.name}
      </h2>
      <p className="mt-1 text-ink2">
        {othersWords(preview)} All new ones become sources and are read once. One that fails is kept with its
        reason, to be read again.
      </p>
      {preview.folders.length > 0 && (
        <p className="mt-2 flex flex-wrap items-center gap-1.5">
          <span className="text-ink2">Its folders become labels:</span>
          {preview.folders.map((folder) => (
            <Pill key={folder.name}>
              {folder.name} {folder.feeds}
            </Pill>
          ))}
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-start gap-3">
        <Field label="A label for all of them" hint="A campaign can take all sources of a label.">
          <input
            className={`${inputLook} !w-56`}
            maxLength={60}
            value={label}
            placeholder="no further label"
            onChange={(event) => setLabel(event.target.value)}
          />
        </Field>
        <div className="pt-[30px]">
          <SayRight whose="Posts of all of them" value={right} onChange={setRight} />
        </div>
        <div className="flex gap-2 pt-[26px]">
          <Button
            look="primary"
            busy={bringing.isPending}
            disabled={preview.fresh + preview.known === 0}
            onClick={() => bringing.mutate()}
          >
            {preview.fresh ? `Make ${plural(preview.fresh, "source")}` : "Give the labels to the known ones"}
          </Button>
          <Button look="quiet" onClick={onClose}>
            Leave it
          </Button>
        </div>
      </div>
      <FormError error={bringing.error} />
      <details className="mt-3">
        <summary className="cursor-pointer font-medium text-verd">
          {total > preview.first.length
            ? `The first ${preview.first.length} of ${count(total)} entries`
            : `The ${plural(total, "entry", "entries")}`}
        </summary>
        <ul aria-label="Entries of the list" className="mt-2 max-h-72 overflow-auto">
          {preview.first.map((feed) => (
            <li key={feed.place} className="border-t border-line2 py-1.5 first:border-0">
              <span className="font-medium">{feed.title || feed.url || "without a name"}</span>{" "}
              {feed.known_as && <span className="text-ink3">is the source “{feed.known_as}”</span>}
              {feed.fault && <span className="text-madder">{faultWords(feed.fault)}</span>}
              {feed.title && <span className="block truncate text-[11.5px] text-ink3">{feed.url}</span>}
            </li>
          ))}
        </ul>
      </details>
    </section>
  );
}
