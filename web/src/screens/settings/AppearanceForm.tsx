import { useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";
import { type Appearance, type Blog, blogQuery, changeAppearance } from "@/api/blogs";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import type { Version } from "@/lib/editing/document";
import { Field, inputLook } from "@/ui/Field";
import { Scroll } from "@/ui/Scroll";
import { useTell } from "@/ui/Toasts";
import { FrontPreview } from "./FrontPreview";
import { LookChoice } from "./LookChoice";
import { CORNERS, DENSITIES, FRONTS, LETTERS, MASTHEADS } from "./looks";

function versionOf({ version, appearance }: Blog): Version<Appearance> {
  return { number: version, value: appearance };
}

/** What an owner chooses for the look of a blog, and its front in it. */
export function AppearanceForm({ blog }: { blog: Blog }) {
  const tell = useTell();
  const queries = useQueryClient();
  const { slug } = blog;
  const edited = useEdited<Appearance, Blog>({
    document: `appearance ${slug}`,
    saved: useMemo(() => versionOf(blog), [blog]),
    save: (appearance, version) => changeAppearance(slug, { appearance, version }),
    versionOf,
    fetchLatest: async () => versionOf(await queries.fetchQuery({ ...blogQuery(slug), staleTime: 0 })),
    refresh: [keys.blog(slug)],
    onSaved: () => tell("Saved. The blog has this look now."),
  });
  const { now, error } = edited;
  const set = (part: Partial<Appearance>) => edited.edit((before) => ({ ...before, ...part }));
  const fault = (part: string) => faultAt(error, `appearance.${part}`);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(20rem,26rem)_1fr] max-[900px]:grid-cols-1 max-[900px]:overflow-y-auto">
      <Scroll label="Choices" className="min-h-0 border-line border-r">
        <form
          className="space-y-5 p-5"
          onSubmit={(event) => {
            event.preventDefault();
            edited.save();
          }}
        >
          <EditGuard edited={edited} />
          <div className="-mx-5 -mt-5">
            <EditNotices edited={edited} what="the look" fields={["accent", "ground"]} />
          </div>
          <LookChoice
            legend="Front"
            options={FRONTS}
            value={now.front}
            onChange={(front) => set({ front })}
          />
          <LookChoice
            legend="Masthead"
            options={MASTHEADS}
            value={now.masthead}
            onChange={(masthead) => set({ masthead })}
          />
          <LookChoice
            legend="Letters"
            options={LETTERS}
            value={now.letters}
            onChange={(letters) => set({ letters })}
          />
          <div className="grid grid-cols-2 gap-4">
            <LookChoice
              legend="Spacing"
              options={DENSITIES}
              value={now.density}
              onChange={(density) => set({ density })}
            />
            <LookChoice
              legend="Corners"
              options={CORNERS}
              value={now.corners}
              onChange={(corners) => set({ corners })}
            />
          </div>
          <div className="grid grid-cols-2 gap-4">
            <Field label="Colour of links" hint="By night it is made lighter." error={fault("accent")}>
              <input
                type="color"
                className={`${inputLook} h-10 p-1`}
                value={now.accent}
                onChange={(event) => set({ accent: event.target.value })}
              />
            </Field>
            <Field label="Colour of the masthead" error={fault("ground")}>
              <input
                type="color"
                className={`${inputLook} h-10 p-1`}
                value={now.ground}
                disabled={now.masthead === "plain"}
                onChange={(event) => set({ ground: event.target.value })}
              />
            </Field>
          </div>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              checked={now.marks}
              onChange={(event) => set({ marks: event.target.checked })}
            />
            Each source has a mark in a colour of its own
          </label>
          <Field label="Text at the foot" hint="Empty: a line that says that posts lead to their originals.">
            <textarea
              className={inputLook}
              rows={3}
              maxLength={500}
              value={now.foot}
              onChange={(event) => set({ foot: event.target.value })}
            />
          </Field>
          <div className="flex items-center justify-end gap-2">
            <SaveButtons edited={edited} what="the look" keys={ON_SCREEN} />
          </div>
        </form>
      </Scroll>
      <FrontPreview blog={slug} appearance={now} />
    </div>
  );
}
