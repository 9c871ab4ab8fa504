import clsx from "clsx";
import { Link } from "react-router";
import type { Need } from "@/api/today";
import { type NeedWords, needWords } from "@/lib/needs";

const TONES: Record<NeedWords["tone"], string> = {
  bad: "border-madder",
  wait: "border-ochre-mark",
  note: "border-line",
};

/** Tasks for a person, most urgent first, each with its action. */
export function Needs({ blog, needs }: { blog: string; needs: readonly Need[] }) {
  return (
    <section aria-label="Needs you">
      <h2 className="text-[15px]">Needs you</h2>
      {needs.length === 0 && <p className="mt-2 text-ink3">Nothing. All that runs by itself runs well.</p>}
      <ul className="mt-2 space-y-3">
        {needs.map((need) => {
          const { title, text, action, tone } = needWords(blog, need);
          return (
            <li key={`${need.code}${title}`} className={clsx("border-l-[3px] pl-3", TONES[tone])}>
              <p className="font-medium">{title}</p>
              <p className="[overflow-wrap:anywhere] text-ink2">{text}</p>
              <Link className="font-semibold text-verd" to={action.to}>
                {action.name}
              </Link>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
