import clsx from "clsx";
import { Check } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Today } from "@/api/today";
import { useMay } from "@/api/useRole";
import { desk } from "@/lib/blog-path";
import { buttonLook } from "@/ui/Button";

interface StepProps {
  number: number;
  title: string;
  text: string;
  done: boolean;
  /** Whether it is the one to do now. */
  next: boolean;
  action: ReactNode;
}

function Step({ number, title, text, done, next, action }: StepProps) {
  return (
    <li
      aria-current={next ? "step" : undefined}
      className={clsx(
        "flex items-start gap-3 border-t border-line2 px-5 py-4 first:border-0",
        done && "text-ink3",
      )}
    >
      <span
        aria-hidden="true"
        className={clsx(
          "mt-0.5 inline-flex size-6 shrink-0 items-center justify-center rounded-full text-xs font-semibold",
          done || next ? "bg-verd text-on-verd" : "border border-line text-ink3",
        )}
      >
        {done ? <Check size={14} /> : number}
      </span>
      <div className="min-w-0 flex-1">
        <h3 className="text-[15px]">
          {title}
          {done && <span className="sr-only">: done</span>}
        </h3>
        {!done && <p className="mt-0.5 text-ink2">{text}</p>}
      </div>
      {next && action}
    </li>
  );
}

/** Whether a blog has no post yet, so that its first steps are shown. */
export function isNew({ latest }: Today): boolean {
  return latest.length === 0;
}

/** The way of a new blog to its first post, and how far it is. */
export function FirstSteps({ blog, today }: { blog: string; today: Today }) {
  const editor = useMay()("editor");
  const [first] = today.lines;
  const held = today.lines.reduce((sum, line) => sum + line.held, 0);
  const done = [today.sources.length > 0, today.campaigns > 0, false];
  const next = editor ? done.indexOf(false) : -1;
  const look = buttonLook("primary");
  const steps = [
    {
      title: "A source",
      text: "A feed, a site without one, or a platform: what the blog is to be made of.",
      action: (
        <Link className={look} to={desk.addSources(blog)}>
          Add sources
        </Link>
      ),
    },
    {
      title: "A campaign",
      text: "The rules by which its items become posts. You see the effect of each before anything goes out.",
      action: (
        <Link className={look} to={desk.newCampaign(blog)}>
          Make a campaign
        </Link>
      ),
    },
    {
      title: "A first post",
      text: held
        ? "Posts wait for your yes in Review."
        : "Look at the items on the bench, then run the campaign.",
      action: (
        <Link className={look} to={held || !first ? desk.review(blog) : desk.bench(blog, first.slug)}>
          {held || !first ? "Review posts" : "Open the bench"}
        </Link>
      ),
    },
  ];
  return (
    <section aria-label="First steps" className="sheet-card max-w-2xl">
      <h2 className="px-5 pt-4 text-base">Three steps to the first post</h2>
      <ol className="mt-2">
        {steps.map((step, place) => (
          <Step
            key={step.title}
            {...step}
            number={place + 1}
            done={done[place] ?? false}
            next={place === next}
          />
        ))}
      </ol>
      {!editor && (
        <p className="border-t border-line2 px-5 py-3 text-ink3">
          Editors and owners of the blog take these steps.
        </p>
      )}
    </section>
  );
}
