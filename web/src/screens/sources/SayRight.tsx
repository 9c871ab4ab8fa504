import { WordSelect } from "@/ui/WordSelect";
import { SAID_RIGHTS, type SaidRight } from "./rights";

interface SayRightProps {
  /** What the sentence begins with: “Posts”, “Their posts”. */
  whose?: string;
  value: SaidRight;
  onChange: (said: SaidRight) => void;
}

/** Asks what posts may carry of a new source, in a sentence. */
export function SayRight({ whose = "Posts", value, onChange }: SayRightProps) {
  return (
    <span className="text-ink2">
      {whose} may carry{" "}
      <WordSelect
        label="What posts may carry"
        value={value}
        options={SAID_RIGHTS}
        tone={value === "unsaid" ? "plain" : "verd"}
        onChange={onChange}
      />
    </span>
  );
}
