import clsx from "clsx";
import { NavLink } from "react-router";

interface TabsProps {
  label: string;
  tabs: readonly { name: string; to: string; badge?: string; all?: boolean }[];
}

/** Related screens, as words under the bar. With `all`, a tab counts for every address below its own. */
export function Tabs({ label, tabs }: TabsProps) {
  return (
    <nav aria-label={label} className="flex gap-1">
      {tabs.map((tab) => (
        <NavLink
          key={tab.name}
          to={tab.to}
          end={!tab.all}
          className={({ isActive }) =>
            clsx(
              "rounded-md px-2.5 py-1",
              isActive ? "bg-verd-wash font-semibold text-verd" : "text-ink2 hover:bg-sunk",
            )
          }
        >
          {tab.name} {tab.badge && <span className="text-ink3">{tab.badge}</span>}
        </NavLink>
      ))}
    </nav>
  );
}
