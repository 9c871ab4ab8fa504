import { useParams } from "react-router";
import { useMay } from "@/api/useRole";
import { Tabs } from "@/components/Tabs";
import { desk } from "@/lib/blog-path";

/** The screens of a blog's settings. Some are for owners alone. */
export function SettingsTabs() {
  const { blog = "" } = useParams();
  const may = useMay();
  const tabs = [
    ...(may("owner")
      ? [
          { name: "Blog", to: desk.settings(blog) },
          { name: "Look", to: desk.look(blog) },
        ]
      : []),
    { name: "People", to: desk.people(blog) },
    { name: "Takedowns", to: desk.takedowns(blog) },
    ...(may("owner") ? [{ name: "Audit list", to: desk.audit(blog) }] : []),
  ];
  return <Tabs label="Settings" tabs={tabs} />;
}
