import { Plus, Trash2 } from "lucide-react";
import type { PartnerLink } from "@/api/offers";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";
import { Parameters } from "./Parameters";

interface PartnerLinksProps {
  links: readonly PartnerLink[];
  /** Hosts of products that have no partner link. */
  untagged: readonly string[];
  faultAt: (path: string) => string | undefined;
  onChange: (links: PartnerLink[]) => void;
}

/** The hosts whose links carry the blog's tag: as parameters, or in the path. */
export function PartnerLinks({ links, untagged, faultAt, onChange }: PartnerLinksProps) {
  const set = (place: number, part: Partial<PartnerLink>) =>
    onChange(links.map((link, at) => (at === place ? { ...link, ...part } : link)));
  const add = (host: string) => onChange([...links, { host, region: "", parameters: {}, path: "" }]);
  const missing = untagged.filter((host) => !links.some((link) => link.host === host));
  return (
    <>
      <ol className="space-y-2">
        {links.map((link, place) => {
          const fault = ["host", "region", "parameters", "path"]
            .map((name) => faultAt(`${place}.${name}`))
            .find(Boolean);
          return (
            // biome-ignore lint/suspicious/noArrayIndexKey: an entry is known by its place
            <li key={place}>
              <div className="flex items-center gap-1.5">
                <input
                  aria-label={`Host of partner ${place + 1}`}
                  className={`${inputLook} !w-44 !py-0.5`}
                  placeholder="shop.example"
                  value={link.host}
                  onChange={(event) => set(place, { host: event.target.value })}
                />
                <input
                  aria-label={`Region of partner ${place + 1}`}
                  className={`${inputLook} !w-14 !py-0.5`}
                  placeholder="any"
                  title="Region of the prices, two letters; empty for any"
                  maxLength={2}
                  value={link.region}
                  onChange={(event) => set(place, { region: event.target.value })}
                />
                <Parameters
                  label={`Parameters of partner ${place + 1}`}
                  values={link.parameters ?? {}}
                  onChange={(parameters) => set(place, { parameters })}
                />
                <input
                  aria-label={`Path of partner ${place + 1}`}
                  className={`${inputLook} !w-44 !py-0.5`}
                  placeholder="or /to/meadow{path}"
                  value={link.path}
                  onChange={(event) => set(place, { path: event.target.value })}
                />
                <button
                  type="button"
                  aria-label={`Remove partner ${place + 1}`}
                  className="inline-flex size-6 shrink-0 items-center justify-center text-ink3 hover:text-madder"
                  onClick={() => onChange(links.filter((_, at) => at !== place))}
                >
                  <Trash2 size={13} />
                </button>
              </div>
              {fault && (
                <p role="alert" className="text-madder text-xs">
                  {fault}
                </p>
              )}
            </li>
          );
        })}
      </ol>
      <Button small look="quiet" onClick={() => add("")}>
        <Plus size={13} aria-hidden="true" /> Add a host
      </Button>
      {missing.length > 0 && (
        <p className="mt-1 text-ink3 text-xs">
          Products without a tag are at{" "}
          {missing.map((host) => (
            <button
              key={host}
              type="button"
              className="mr-1.5 inline-flex min-h-6 items-center text-ink2 underline hover:text-verd"
              onClick={() => add(host)}
            >
              {host}
            </button>
          ))}
        </p>
      )}
    </>
  );
}
