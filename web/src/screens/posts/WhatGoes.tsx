import type { Touched } from "@/api/posts";
import { plural } from "@/lib/format";
import { STATE_WORDS } from "@/lib/wording";

interface WhatGoesProps {
  touched: Touched;
  spare: boolean;
  onSpare: (spare: boolean) => void;
}

/** The number and states of the removed posts, and whether edited ones stay. */
export function WhatGoes({ touched, spare, onSpare }: WhatGoesProps) {
  const states = Object.entries(touched.states).filter(([, number]) => number > 0);
  const worked = [
    touched.edited > 0 && `${touched.edited} edited by hand`,
    touched.commented > 0 && `${touched.commented} with comments of readers`,
  ].filter(Boolean);
  return (
    <>
      <p>
        {plural(touched.posts, "post")}
        {states.length > 0 &&
          `: ${states.map(([state, number]) => `${number} ${STATE_WORDS[state as keyof typeof STATE_WORDS].toLowerCase()}`).join(", ")}`}
        .
      </p>
      {worked.length > 0 && (
        <label className="mt-2 flex gap-2 rounded-md bg-ochre-wash px-3 py-2">
          <input
            type="checkbox"
            className="accent-verd"
            checked={spare}
            onChange={({ target }) => onSpare(target.checked)}
          />
          <span>Keep those that people have worked on: {worked.join(", ")}.</span>
        </label>
      )}
    </>
  );
}
