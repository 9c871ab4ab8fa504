import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { type Blog, changeBlog } from "@/api/blogs";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { setTimeZone, timeZonesQuery } from "@/api/schedules";
import { useChange } from "@/api/useChange";
import { publicBlog } from "@/lib/blog-path";
import { Button } from "@/ui/Button";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

/** Name, tagline, language and time zone. */
export function BlogForm({ blog }: { blog: Blog }) {
  const tell = useTell();
  const zones = useQuery(timeZonesQuery).data ?? [blog.time_zone];
  const [form, setForm] = useState({
    title: blog.title,
    tagline: blog.tagline,
    language: blog.language,
    player_hosts: blog.player_hosts,
  });
  const [zone, setZone] = useState(blog.time_zone);
  const saving = useChange(
    async () => {
      await changeBlog(blog.slug, form);
      if (zone !== blog.time_zone) await setTimeZone(blog.slug, zone);
    },
    {
      refresh: [keys.blog(blog.slug), keys.blogs(), keys.campaigns(blog.slug), keys.today(blog.slug)],
      onDone: () => tell("Saved."),
    },
  );
  const set = (part: Partial<typeof form>) => setForm({ ...form, ...part });
  return (
    <form
      className="sheet-card space-y-4 p-5"
      onSubmit={(event) => {
        event.preventDefault();
        saving.mutate();
      }}
    >
      <Field label="Name">
        <input
          className={inputLook}
          value={form.title}
          maxLength={200}
          required
          onChange={(event) => set({ title: event.target.value })}
        />
      </Field>
      <Field label="Tagline" hint="A line under the name, on the blog and in its feeds.">
        <input
          className={inputLook}
          value={form.tagline}
          maxLength={300}
          onChange={(event) => set({ tagline: event.target.value })}
        />
      </Field>
      <Field label="Address" hint="It stays, so that links to the blog hold.">
        <input className={inputLook} value={publicBlog(blog.slug)} readOnly disabled />
      </Field>
      <div className="grid grid-cols-2 gap-4">
        <Field
          label="Language"
          hint="A language tag: en, de, pt-BR. Dates on the blog are written in it."
          error={faultAt(saving.error, "language")}
        >
          <input
            className={inputLook}
            value={form.language}
            required
            maxLength={35}
            onChange={(event) => set({ language: event.target.value })}
          />
        </Field>
        <Field label="Time zone" hint="Schedules go by it.">
          <select className={inputLook} value={zone} onChange={(event) => setZone(event.target.value)}>
            {zones.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </Field>
      </div>
      <Field
        label="Hosts of players"
        hint="Films from these hosts can be played on the blog, with spaces between: films.example. Nothing is loaded from them before a reader presses Play."
        error={faultAt(saving.error, "player_hosts")}
      >
        <input
          className={inputLook}
          value={form.player_hosts.join(" ")}
          spellCheck={false}
          onChange={(event) => set({ player_hosts: event.target.value.split(/[\s,]+/) })}
        />
      </Field>
      {saving.error && !faultAt(saving.error, "language") && !faultAt(saving.error, "player_hosts") && (
        <p role="alert" className="font-medium text-madder">
          {saving.error.message}
        </p>
      )}
      <Button type="submit" look="primary" busy={saving.isPending}>
        Save
      </Button>
    </form>
  );
}
