import clsx from "clsx";
import { NavLink } from "react-router";

interface TabsProps {
  label: string;
  tabs: readonly { name: string; to: string; badge?: string }[];
}

/** Related screens, as words under the bar. */
export function Tabs({ label, tabs }: TabsProps) {
  return (
    <nav aria-label={label} className="flex gap-1">
      {tabs.map((tab) => (
        <NavLink
          key={tab.name}
          to={tab.to}
          end
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
