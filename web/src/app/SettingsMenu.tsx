import { Settings } from "lucide-react";
import { useNavigate } from "react-router";
import { useMay } from "@/api/useRole";
import { desk } from "@/lib/blog-path";
import { Menu } from "@/ui/Menu";

/** The settings of the blog that is open. */
export function SettingsMenu({ blog }: { blog: string }) {
  const navigate = useNavigate();
  const may = useMay();
  return (
    <Menu
      trigger={
        <button
          type="button"
          aria-label="Settings of the blog"
          className="inline-flex size-6 items-center justify-center text-[#b7c7c1] hover:text-white"
        >
          <Settings size={14} />
        </button>
      }
      entries={[
        ...(may("owner")
          ? [
              { label: "Blog", onSelect: () => navigate(desk.settings(blog)) },
              { label: "Look", onSelect: () => navigate(desk.look(blog)) },
              { label: "Languages", onSelect: () => navigate(desk.languages(blog)) },
            ]
          : []),
        { label: "Connections", onSelect: () => navigate(desk.connections(blog)) },
        { label: "Language services", onSelect: () => navigate(desk.services(blog)) },
        ...(may("editor") ? [{ label: "Blog file", onSelect: () => navigate(desk.blogFile(blog)) }] : []),
        { label: "People", onSelect: () => navigate(desk.people(blog)) },
        ...(may("owner")
          ? [
              { label: "Retention", onSelect: () => navigate(desk.retention(blog)) },
              { label: "Audit list", onSelect: () => navigate(desk.audit(blog)) },
            ]
          : []),
      ]}
    />
  );
}
