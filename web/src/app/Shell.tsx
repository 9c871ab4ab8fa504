import { focusManager, useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { ChevronDown, ExternalLink, Moon, Search, Sun, UserRound } from "lucide-react";
import { useState } from "react";
import { NavLink, Outlet, useLocation, useNavigate, useParams } from "react-router";
import { blogsQuery } from "@/api/blogs";
import { waitingQuery } from "@/api/comments";
import { heldQuery } from "@/api/posts";
import { type Session, sessionQuery, signOut } from "@/api/session";
import { useChange } from "@/api/useChange";
import { desk, publicBlog } from "@/lib/blog-path";
import { count } from "@/lib/format";
import { roleName } from "@/lib/roles";
import { Palette } from "@/screens/palette/Palette";
import { NewBlogDialog } from "@/screens/settings/NewBlogDialog";
import { Menu } from "@/ui/Menu";
import { SkipLink } from "@/ui/SkipLink";
import { useTell } from "@/ui/Toasts";
import { Brand } from "./Brand";
import { SettingsMenu } from "./SettingsMenu";
import { useTheme } from "./theme";
import { UnderWay } from "./under-way/UnderWay";
import { usePaletteKey } from "./usePaletteKey";
import { useRefusal } from "./useRefusal";

interface Section {
  name: string;
  to: (blog: string) => string;
  /** Other screens of this section. */
  also?: readonly string[];
}

const SECTIONS: readonly Section[] = [
  { name: "Today", to: desk.today },
  { name: "Campaigns", to: desk.campaigns, also: ["/runs", "/decisions"] },
  { name: "Sources", to: desk.sources, also: ["/feed-lists"] },
  { name: "Review", to: desk.review, also: ["/comments"] },
  { name: "Posts", to: desk.posts, also: ["/reads"] },
  { name: "Library", to: desk.lists, also: ["/names", "/readers", "/pictures", "/recordings", "/offers"] },
];

function Sections({ blog }: { blog: string }) {
  const { pathname } = useLocation();
  const held = useQuery(heldQuery(blog)).data?.states?.held ?? 0;
  const waiting = useQuery(waitingQuery(blog)).data?.states.waiting ?? 0;
  const badges: Record<string, string> = {
    Review: held + waiting > 0 ? count(held + waiting) : "",
  };
  return (
    <nav aria-label="Sections" className="flex flex-wrap gap-0.5">
      {SECTIONS.map((section) => (
        <NavLink
          key={section.name}
          to={section.to(blog)}
          className={({ isActive }) =>
            clsx(
              "rounded-md px-2.5 py-1",
              isActive || section.also?.some((part) => pathname.startsWith(`/desk/${blog}${part}`))
                ? "bg-[#2a3a35] text-white"
                : "text-[#b7c7c1] hover:text-white",
            )
          }
        >
          {section.name}{" "}
          {badges[section.name] && (
            <span className="ml-0.5 rounded-full bg-[#d9a441] px-1.5 text-[11px] font-semibold text-[#231803]">
              {badges[section.name]}
            </span>
          )}
        </NavLink>
      ))}
    </nav>
  );
}

function Person({ blog, session }: { blog: string; session: Session }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const tell = useTell();
  const leave = useChange(
    async () => {
      // What is on its way, or asked again meanwhile, would come back as “sign in first”.
      focusManager.setFocused(false);
      await queries.cancelQueries();
      try {
        return await signOut();
      } catch (error) {
        focusManager.setFocused(undefined);
        tell(error instanceof Error ? error.message : String(error), { tone: "bad" });
        throw error;
      }
    },
    {
      onDone: (next) => {
        // The observed query must stay the same cache entry; a new one would have no observer.
        queries.setQueryData(sessionQuery.queryKey, next);
        queries.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
        focusManager.setFocused(undefined);
      },
    },
  );
  return (
    <Menu
      trigger={
        <button type="button" className="flex items-center gap-1 text-[#b7c7c1] hover:text-white">
          <UserRound size={14} /> {session.name} <ChevronDown size={12} />
        </button>
      }
      entries={[
        { label: "Your account", onSelect: () => navigate(desk.account(blog)) },
        { label: "What the API can do", onSelect: () => navigate(desk.api(blog)) },
        { label: "Sign out", hint: `Glyptarch ${session.version}`, onSelect: () => leave.mutate() },
      ]}
    />
  );
}

/** The dark bar with the sections as words, and the screen under it. */
export function Shell({ session }: { session: Session }) {
  const { blog = "" } = useParams();
  const navigate = useNavigate();
  const blogs = useQuery(blogsQuery).data ?? [];
  const [theme, turnTheme] = useTheme();
  const [making, setMaking] = useState(false);
  const [finding, setFinding] = usePaletteKey();
  const here = blogs.find((one) => one.slug === blog);
  useRefusal();
  return (
    <div className="flex min-h-full flex-col lg:h-full">
      <SkipLink to="content">Skip to the content</SkipLink>
      <header className="on-bar flex min-h-[46px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 bg-bar px-4 py-1.5">
        <Brand />
        <Menu
          trigger={
            <button
              type="button"
              className="flex items-center gap-1.5 rounded-md border border-[#3a4a45] px-2.5 py-1 text-white"
            >
              {here?.title ?? "Choose a blog"} <ChevronDown size={12} />
            </button>
          }
          entries={[
            ...blogs.map((blog) => ({
              label: blog.title,
              hint: roleName(blog.role),
              onSelect: () => navigate(desk.today(blog.slug)),
            })),
            ...(blogs.some(({ role }) => role === "owner")
              ? [{ label: "New blog…", onSelect: () => setMaking(true) }]
              : []),
          ]}
        />
        <Sections blog={blog} />
        <div className="ml-auto flex items-center gap-4">
          <button
            type="button"
            className="flex items-center gap-1.5 rounded-md border border-[#3a4a45] px-2 py-0.5 text-xs text-[#b7c7c1] hover:text-white"
            onClick={() => setFinding(true)}
          >
            <Search size={12} /> Find <kbd className="font-mono text-[11px]">Ctrl K</kbd>
          </button>
          <UnderWay blog={blog} />
          <a
            className="flex items-center gap-1 text-[#b7c7c1] hover:text-white"
            href={publicBlog(blog)}
            target="_blank"
            rel="noreferrer"
          >
            Read the blog <ExternalLink size={12} />
          </a>
          <button
            type="button"
            aria-label={theme === "dark" ? "Light colours" : "Dark colours"}
            className="inline-flex size-6 items-center justify-center text-[#b7c7c1] hover:text-white"
            onClick={turnTheme}
          >
            {theme === "dark" ? <Sun size={14} /> : <Moon size={14} />}
          </button>
          <SettingsMenu blog={blog} />
          <Person blog={blog} session={session} />
        </div>
      </header>
      <main id="content" tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none">
        <Outlet />
      </main>
      {making && <NewBlogDialog onClose={() => setMaking(false)} />}
      {finding && <Palette onClose={() => setFinding(false)} />}
    </div>
  );
}
