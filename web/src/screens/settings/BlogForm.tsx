import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { type Blog, blogQuery, changeBlog } from "@/api/blogs";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { setTimeZone, timeZonesQuery } from "@/api/schedules";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import { publicBlog } from "@/lib/blog-path";
import type { Version } from "@/lib/editing/document";
import { Field, inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";

interface Settings {
  title: string;
  tagline: string;
  language: string;
  player_hosts: string[];
  full_feeds: boolean;
  hub: string;
  time_zone: string;
}

function versionOf({
  version,
  title,
  tagline,
  language,
  player_hosts,
  full_feeds,
  hub,
  time_zone,
}: Blog): Version<Settings> {
  return { number: version, value: { title, tagline, language, player_hosts, full_feeds, hub, time_zone } };
}

/** Name, tagline, language and time zone. */
export function BlogForm({ blog }: { blog: Blog }) {
  const tell = useTell();
  const queries = useQueryClient();
  const zones = useQuery(timeZonesQuery).data ?? [blog.time_zone];
  const { slug } = blog;
  const edited = useEdited<Settings, Blog>({
    document: `settings ${slug}`,
    saved: useMemo(() => versionOf(blog), [blog]),
    save: async ({ time_zone, ...settings }, version, was) => {
      const changed = await changeBlog(slug, { ...settings, version });
      if (time_zone !== was.time_zone) await setTimeZone(slug, time_zone);
      return { ...changed, time_zone };
    },
    versionOf,
    fetchLatest: async () => versionOf(await queries.fetchQuery({ ...blogQuery(slug), staleTime: 0 })),
    refresh: [keys.blog(slug), keys.blogs(), keys.campaigns(slug), keys.today(slug)],
    onSaved: () => tell("Saved."),
  });
  const { now, error } = edited;
  const set = (part: Partial<Settings>) => edited.edit((before) => ({ ...before, ...part }));
  return (
    <form
      className="sheet-card space-y-4 overflow-hidden p-5"
      onSubmit={(event) => {
        event.preventDefault();
        edited.save();
      }}
    >
      <EditGuard edited={edited} />
      <div className="-mx-5 -mt-5">
        <EditNotices edited={edited} what="the settings" fields={["language", "player_hosts", "hub"]} />
      </div>
      <Field label="Name">
        <input
          className={inputLook}
          value={now.title}
          maxLength={200}
          required
          onChange={(event) => set({ title: event.target.value })}
        />
      </Field>
      <Field label="Tagline" hint="A line under the name, on the blog and in its feeds.">
        <input
          className={inputLook}
          value={now.tagline}
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
          error={faultAt(error, "language")}
        >
          <input
            className={inputLook}
            value={now.language}
            required
            maxLength={35}
            onChange={(event) => set({ language: event.target.value })}
          />
        </Field>
        <Field label="Time zone" hint="Schedules go by it.">
          <select
            className={inputLook}
            value={now.time_zone}
            onChange={(event) => set({ time_zone: event.target.value })}
          >
            {zones.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </Field>
      </div>
      <Field
        label="Hosts of players"
        hint="Films from these hosts can be played on the blog, with spaces between: films.example. Nothing is loaded from them before a reader presses Play."
        error={faultAt(error, "player_hosts")}
      >
        <input
          className={inputLook}
          value={now.player_hosts.join(" ")}
          spellCheck={false}
          onChange={(event) => set({ player_hosts: event.target.value.split(/[\s,]+/) })}
        />
      </Field>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={now.full_feeds}
          onChange={(event) => set({ full_feeds: event.target.checked })}
        />
        Feeds carry whole texts, as the pages do
      </label>
      <Field
        label="Hub"
        hint="A WebSub hub that is told of new posts, so that feed readers get them at once. Leave it empty for none."
        error={faultAt(error, "hub")}
      >
        <input
          className={inputLook}
          type="url"
          value={now.hub}
          maxLength={2000}
          spellCheck={false}
          placeholder="https://hub.example/"
          onChange={(event) => set({ hub: event.target.value })}
        />
      </Field>
      <div className="flex items-center justify-end gap-2">
        <SaveButtons edited={edited} what="the settings" keys={ON_SCREEN} valid={now.title.trim() !== ""} />
      </div>
    </form>
  );
}
