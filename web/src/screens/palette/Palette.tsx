import { useQuery } from "@tanstack/react-query";
import { Command } from "cmdk";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { blogsQuery } from "@/api/blogs";
import { campaignsQuery } from "@/api/campaigns";
import { EVERY_POST, postsQuery } from "@/api/posts";
import { sourcesQuery } from "@/api/sources";
import { useMay } from "@/api/useRole";
import { desk, publicBlog } from "@/lib/blog-path";
import { useSettled } from "@/lib/useSettled";
import { returningFocus } from "@/ui/focus";
import { Group } from "./Group";
import { placesOf } from "./places";

const MOST = 6;

/** Finds screens, campaigns, sources, posts and actions by a few letters (Ctrl+K). */
export function Palette({ onClose }: { onClose: () => void }) {
  const { blog = "" } = useParams();
  const navigate = useNavigate();
  const may = useMay();
  const [typed, setTyped] = useState("");
  const search = useSettled(typed.trim());
  const asked = search.length > 1;
  const blogs = useQuery(blogsQuery).data ?? [];
  const campaigns = useQuery({ ...campaignsQuery(blog, { search, limit: MOST }), enabled: asked });
  const sources = useQuery({ ...sourcesQuery(blog, search, "title", 0, MOST), enabled: asked });
  const filter = { ...EVERY_POST, search, sort: "newest", offset: 0 } as const;
  const posts = useQuery({ ...postsQuery(blog, filter), enabled: asked });
  const words = typed.trim().toLowerCase();
  const named = (name: string) => name.toLowerCase().includes(words);
  const searching = asked && (campaigns.isFetching || sources.isFetching || posts.isFetching);

  function go(to: string) {
    onClose();
    if (to.startsWith("/blog/")) window.open(to, "_blank", "noreferrer");
    else navigate(to);
  }

  const places = placesOf(blog, may).filter(({ name }) => named(name));
  const others = blogs
    .filter(({ slug, title }) => slug !== blog && named(title))
    .map(({ slug, title }) => ({ name: title, to: desk.today(slug) }));
  return (
    <Dialog.Root open onOpenChange={onClose}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onCloseAutoFocus={returningFocus}
          className="fixed top-[12vh] left-1/2 z-50 w-[620px] max-w-[94vw] -translate-x-1/2 overflow-hidden rounded-xl border border-line bg-sheet shadow-xl"
        >
          <Dialog.Title className="sr-only">Find</Dialog.Title>
          <Command label="Find" shouldFilter={false} loop>
            <Command.Input
              value={typed}
              onValueChange={setTyped}
              placeholder="Find a screen, campaign, source or post"
              className="w-full border-b border-line bg-sheet px-4 py-3 text-[15px] outline-none"
            />
            <Command.List className="max-h-[52vh] overflow-auto p-2">
              <Command.Empty className="p-6 text-center text-ink3">
                {searching ? "Searching…" : `Nothing is named “${typed}”.`}
              </Command.Empty>
              <Group title="Go to" rows={places} onChosen={go} />
              {asked && (
                <>
                  <Group
                    title="Campaigns"
                    rows={(campaigns.data?.rows ?? []).map((row) => ({
                      name: row.name,
                      to: desk.bench(blog, row.slug),
                    }))}
                    onChosen={go}
                  />
                  <Group
                    title="Sources"
                    rows={(sources.data?.rows ?? []).map((row) => ({
                      name: row.title,
                      to: desk.source(blog, row.key),
                    }))}
                    onChosen={go}
                  />
                  <Group
                    title="Posts"
                    rows={(posts.data?.rows ?? []).slice(0, MOST).map((row) => ({
                      name: row.title,
                      to: desk.post(blog, row.id),
                    }))}
                    onChosen={go}
                  />
                </>
              )}
              <Group title="Other blogs" rows={others} onChosen={go} />
              <Group
                title="Outside"
                rows={[{ name: "Read the blog", to: publicBlog(blog) }].filter(({ name }) => named(name))}
                onChosen={go}
              />
            </Command.List>
          </Command>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
