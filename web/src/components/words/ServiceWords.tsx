import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { servicesQuery } from "@/api/services";
import { desk } from "@/lib/blog-path";
import { WordToggle } from "@/ui/WordToggle";

interface ServiceWordsProps {
  blog: string;
  task: "translate" | "reword" | "summarise";
  chosen: readonly string[];
  /** Whether none may be chosen. */
  optional?: boolean;
  onChange: (services: string[]) => void;
}

const MOST = 5;

/** The language services that can do a task, in the order in which they are asked. One stays on, unless they are optional. */
export function ServiceWords({ blog, task, chosen, optional = false, onChange }: ServiceWordsProps) {
  const services = useQuery(servicesQuery(blog)).data?.services;
  if (!services) return null;
  const able = services.filter(({ tasks }) => tasks.includes(task));
  const known = chosen.filter((key) => able.some((service) => service.key === key));
  function toggle(key: string, on: boolean) {
    const next = on ? [...known, key] : known.filter((other) => other !== key);
    if ((optional || next.length) && next.length <= MOST) onChange(next);
  }
  if (!able.length)
    return (
      <Link className="font-semibold text-verd" to={desk.services(blog)}>
        Add a language service first
      </Link>
    );
  const rank = ({ key }: { key: string }) => (known.includes(key) ? known.indexOf(key) : MOST);
  return able
    .toSorted((one, other) => rank(one) - rank(other))
    .map((service) => {
      const place = known.indexOf(service.key);
      return (
        <WordToggle
          key={service.key}
          label={known.length > 1 && place >= 0 ? `${place + 1}. ${service.name}` : service.name}
          on={place >= 0}
          onChange={(on) => toggle(service.key, on)}
        />
      );
    });
}
