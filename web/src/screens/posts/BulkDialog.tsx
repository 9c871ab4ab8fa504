import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { namesQuery } from "@/api/names";
import type { Bulk } from "@/api/posts";
import { MOST_NAMED } from "@/components/Paging";
import { plural } from "@/lib/format";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Field, inputLook } from "@/ui/Field";

export type BulkAsk = "scheduled" | "category" | "tags" | "byline";

interface BulkDialogProps {
  blog: string;
  ask: BulkAsk;
  number: number;
  onClose: () => void;
  onChosen: (what: Bulk) => void;
}

const TITLES: Record<BulkAsk, string> = {
  scheduled: "Schedule",
  category: "Move to a category",
  tags: "Add or take tags",
  byline: "Set the byline",
};

const split = (text: string) =>
  text
    .split(",")
    .map((one) => one.trim().replace(/^#/, ""))
    .filter(Boolean);

/** Asks for what a change of many posts needs. */
export function BulkDialog({ blog, ask, number, onClose, onChosen }: BulkDialogProps) {
  const [text, setText] = useState("");
  const [taken, setTaken] = useState("");
  const kind = ask === "tags" ? "tag" : ask === "byline" ? "byline" : "category";
  const known =
    useQuery({ ...namesQuery(blog, kind, "", 0, MOST_NAMED), enabled: ask !== "scheduled" }).data?.rows ?? [];
  const empty = ask === "tags" ? !split(text).length && !split(taken).length : !text.trim();

  function submit(event: FormEvent) {
    event.preventDefault();
    if (ask === "scheduled")
      onChosen({ action: "moved", to: "scheduled", date: new Date(text).toISOString() });
    else if (ask === "category") onChosen({ action: "category", category: text.trim() });
    else if (ask === "byline") onChosen({ action: "byline", byline: text.trim() });
    else onChosen({ action: "tags", add: split(text), remove: split(taken) });
  }

  const input = (value: string, onText: (next: string) => void) => (
    <input
      className={inputLook}
      value={value}
      list={ask === "tags" ? undefined : "known-names"}
      onChange={(event) => onText(event.target.value)}
    />
  );
  return (
    <Dialog open onOpenChange={onClose} title={`${TITLES[ask]}: ${plural(number, "post")}`}>
      <form onSubmit={submit} className="space-y-3">
        {ask === "scheduled" && (
          <Field label="Goes out" hint="By the clock of this computer.">
            <input
              type="datetime-local"
              className={inputLook}
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
          </Field>
        )}
        {ask === "category" && <Field label="Main category">{input(text, setText)}</Field>}
        {ask === "byline" && <Field label="Byline">{input(text, setText)}</Field>}
        {ask === "tags" && (
          <>
            <Field label="Tags to add" hint="Parted by commas.">
              {input(text, setText)}
            </Field>
            <Field label="Tags to take off" hint="Parted by commas.">
              {input(taken, setTaken)}
            </Field>
          </>
        )}
        <datalist id="known-names">
          {known.map(({ id, name }) => (
            <option key={id} value={name} />
          ))}
        </datalist>
        <div className="flex justify-end gap-2 pt-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="primary" disabled={empty}>
            {TITLES[ask]}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
