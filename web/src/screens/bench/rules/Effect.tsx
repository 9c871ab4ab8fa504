import type { Schemas } from "@/api/client";
import { count, plural } from "@/lib/format";

interface EffectProps {
  verb: string;
  effect: Schemas["RuleEffectOut"] | undefined;
  of: number;
  note?: string;
  bar?: "bg-madder" | "bg-indigo" | "bg-ochre-mark";
}

/** The effect of a rule on the proof, now and before the edit. */
export function Effect({ verb, effect, of, note = "", bar = "bg-madder" }: EffectProps) {
  const now = effect?.against ?? 0;
  const was = effect?.was_against ?? 0;
  return (
    <>
      <span className="whitespace-nowrap">
        {verb} {plural(now, "item")}
        {effect && effect.alone > 0 && effect.alone < now && `, ${count(effect.alone)} alone`}
      </span>
      <span className="h-1 min-w-6 flex-1 overflow-hidden rounded-sm bg-sunk">
        <span className={`block h-full ${bar}`} style={{ width: `${of ? (now / of) * 100 : 0}%` }} />
      </span>
      {now === 0 && note && <span className="whitespace-nowrap">{note}</span>}
      {now !== was && <span className="font-semibold whitespace-nowrap text-plum">was {count(was)}</span>}
    </>
  );
}
