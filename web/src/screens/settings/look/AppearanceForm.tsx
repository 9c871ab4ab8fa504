import { useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { type Appearance, type Blog, blogQuery, changeAppearance } from "@/api/blogs";
import { faultAt } from "@/api/client";
import { keys } from "@/api/keys";
import { EditGuard } from "@/components/editing/EditGuard";
import { EditNotices } from "@/components/editing/EditNotices";
import { ON_SCREEN, SaveButtons } from "@/components/editing/SaveButtons";
import { useEdited } from "@/components/editing/useEdited";
import type { Version } from "@/lib/editing/document";
import { Scroll } from "@/ui/Scroll";
import { Segmented } from "@/ui/Segmented";
import { useTell } from "@/ui/Toasts";
import { Dress } from "./Dress";
import { FrontParts } from "./FrontParts";
import { FrontPreview } from "./FrontPreview";
import { HeadAndFoot } from "./HeadAndFoot";
import { OwnCss } from "./OwnCss";

function versionOf({ version, appearance }: Blog): Version<Appearance> {
  return { number: version, value: appearance };
}

const TABS = [
  { value: "front", label: "Front" },
  { value: "dress", label: "Colours and letters" },
  { value: "menus", label: "Head and foot" },
  { value: "css", label: "CSS" },
] as const;

type Tab = (typeof TABS)[number]["value"];

/** What an owner chooses for the look of a blog, and its front in it. */
export function AppearanceForm({ blog }: { blog: Blog }) {
  const tell = useTell();
  const [tab, setTab] = useState<Tab>("front");
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
            <EditNotices
              edited={edited}
              what="the look"
              fields={["accent", "ground", "css", "menu", "foot_menu"]}
            />
          </div>
          <Segmented label="What is set" options={TABS} value={tab} onChange={setTab} />
          {tab === "front" && <FrontParts blog={slug} look={now} onChange={set} />}
          {tab === "dress" && <Dress look={now} onChange={set} fault={fault} />}
          {tab === "menus" && <HeadAndFoot blog={slug} look={now} onChange={set} fault={fault} />}
          {tab === "css" && <OwnCss look={now} onChange={set} fault={fault} />}
          <div className="flex items-center justify-end gap-2">
            <SaveButtons edited={edited} what="the look" keys={ON_SCREEN} />
          </div>
        </form>
      </Scroll>
      <FrontPreview blog={slug} appearance={now} />
    </div>
  );
}
