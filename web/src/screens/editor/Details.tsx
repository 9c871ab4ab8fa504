import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ProblemError } from "@/api/client";
import { namesQuery } from "@/api/names";
import type { PostValues } from "@/api/posts";
import { MOST_NAMED } from "@/components/Paging";
import { kindOf, POST_KINDS } from "@/lib/post-kinds";
import { ChoosePicture } from "@/screens/media/ChoosePicture";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { Scroll } from "@/ui/Scroll";
import { CustomFields } from "./CustomFields";
import { NamesField } from "./NamesField";
import type { Editing, Values } from "./useEditing";

/** Formats a time for the browser's input, in the computer's time zone. */
function localTime(iso: string): string {
  const date = new Date(iso);
  return new Date(date.getTime() - date.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}

/** All values of a post besides its text. */
export function Details({ blog, editing }: { blog: string; editing: Editing }) {
  const { now, set, error } = editing;
  const [choosing, setChoosing] = useState(false);
  const bylines = useQuery(namesQuery(blog, "byline", "", 0, MOST_NAMED)).data?.rows ?? [];
  const faults = error instanceof ProblemError ? error.faults : [];
  const fault = (name: string) => faults.find(({ path }) => path === name)?.message;
  const hand = (name: keyof Values) => (editing.isByHand(name) ? " (edited by hand)" : "");
  return (
    <Scroll label="Details" className="min-h-0 flex-1 space-y-4 p-4">
      <NamesField
        blog={blog}
        kind="category"
        label={`Categories${hand("categories")}`}
        hint="Parted by commas; the first is the main one."
        names={now.categories}
        onChange={(categories) => set({ categories })}
      />
      <NamesField
        blog={blog}
        kind="tag"
        label={`Tags${hand("tags")}`}
        hint="Parted by commas."
        names={now.tags}
        onChange={(tags) => set({ tags })}
      />
      <div className="grid grid-cols-2 gap-3">
        <Field label={`Byline${hand("byline")}`}>
          <input
            className={inputLook}
            list="bylines"
            value={now.byline}
            maxLength={80}
            onChange={(event) => set({ byline: event.target.value })}
          />
        </Field>
        <datalist id="bylines">
          {bylines.map(({ id, name }) => (
            <option key={id} value={name} />
          ))}
        </datalist>
        <Field label={`Date${hand("date")}`} error={fault("date")}>
          <input
            type="datetime-local"
            className={inputLook}
            value={localTime(now.date)}
            onChange={(event) =>
              event.target.value && set({ date: new Date(event.target.value).toISOString() })
            }
          />
        </Field>
      </div>
      <Field
        label={`Address${hand("slug")}`}
        hint="The last part of where it stands. The old one leads to it."
        error={fault("slug")}
      >
        <input
          className={inputLook}
          value={now.slug}
          onChange={(event) => set({ slug: event.target.value })}
        />
      </Field>
      <Field
        label={`Kind${hand("kind")}`}
        hint="A page stands in no list: it is for menus, such as about or imprint."
        error={fault("kind")}
      >
        <input
          className={inputLook}
          list="kinds-of-posts"
          value={now.kind}
          onChange={(event) => set({ kind: kindOf(event.target.value) })}
        />
      </Field>
      <datalist id="kinds-of-posts">
        {["page", ...POST_KINDS].map((kind) => (
          <option key={kind} value={kind} />
        ))}
      </datalist>
      <fieldset className="space-y-2">
        <legend className="mb-1 font-semibold">Lead image{hand("lead_url")}</legend>
        {now.lead_url && (
          <img src={now.lead_url} alt="" className="max-h-40 w-full rounded-md bg-sunk object-cover" />
        )}
        <span className="flex gap-2">
          <Button small onClick={() => setChoosing(true)}>
            {now.lead_url ? "Choose another" : "Choose one"}
          </Button>
          {now.lead_url && (
            <Button small onClick={() => set({ lead_url: "", lead_alt: "" })}>
              Take it off
            </Button>
          )}
        </span>
        {now.lead_url && (
          <Field label="What it shows" error={fault("lead_url")}>
            <input
              className={inputLook}
              value={now.lead_alt}
              onChange={(event) => set({ lead_alt: event.target.value })}
            />
          </Field>
        )}
      </fieldset>
      <Field label={`Visibility${hand("visibility")}`} error={fault("pass_phrase")}>
        <select
          className={inputLook}
          value={now.visibility}
          onChange={(event) => set({ visibility: event.target.value as PostValues["visibility"] })}
        >
          <option value="public">Everybody</option>
          <option value="private">The people of this blog</option>
          <option value="phrase">Whoever knows a pass phrase</option>
        </select>
      </Field>
      {now.visibility === "phrase" && (
        <Field label="Pass phrase">
          <input
            className={inputLook}
            value={now.pass_phrase}
            maxLength={80}
            onChange={(event) => set({ pass_phrase: event.target.value })}
          />
        </Field>
      )}
      <div className="flex flex-wrap gap-x-5 gap-y-1">
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            className="accent-verd"
            checked={now.pinned}
            onChange={({ target }) => set({ pinned: target.checked })}
          />
          Pinned on top
        </label>
        <label className="flex min-h-6 items-center gap-2">
          <input
            type="checkbox"
            className="accent-verd"
            checked={now.comments}
            onChange={({ target }) => set({ comments: target.checked })}
          />
          Readers may comment
        </label>
      </div>
      <CustomFields fields={now.fields} faults={faults} onChange={(fields) => set({ fields })} />
      <Field label={`Description${hand("description")}`} hint="What search engines show.">
        <textarea
          rows={2}
          className={inputLook}
          value={now.description}
          onChange={(event) => set({ description: event.target.value })}
        />
      </Field>
      <Field
        label="Original elsewhere"
        hint="Where its text stands first, if not here."
        error={fault("canonical")}
      >
        <input
          className={inputLook}
          value={now.canonical}
          onChange={(event) => set({ canonical: event.target.value })}
        />
      </Field>
      {choosing && (
        <ChoosePicture
          blog={blog}
          onClose={() => setChoosing(false)}
          onChosen={({ url, alt }) => {
            setChoosing(false);
            set({ lead_url: url, lead_alt: alt });
          }}
        />
      )}
    </Scroll>
  );
}
