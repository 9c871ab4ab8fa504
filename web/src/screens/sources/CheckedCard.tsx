import { useState } from "react";
import { Link } from "react-router";
import { keys } from "@/api/keys";
import { addSource, type Checked } from "@/api/sources";
import { useChange } from "@/api/useChange";
import { desk } from "@/lib/blog-path";
import { milliseconds, plural } from "@/lib/format";
import { warningWords } from "@/lib/warnings";
import { Button, buttonLook } from "@/ui/Button";
import { inputLook } from "@/ui/Field";
import { Lozenge } from "@/ui/Lozenge";
import { Pill } from "@/ui/Pill";
import { FieldsFilled } from "./FieldsFilled";
import { type SaidRight, sentRight } from "./rights";
import { Samples } from "./Samples";
import { SayRight } from "./SayRight";

interface CheckedCardProps {
  blog: string;
  address: string;
  checked: Checked | null;
  onFollow: (url: string) => void;
  right: SaidRight;
  onRight: (said: SaidRight) => void;
  /** Gets the key of an added source. */
  onAdded: (key: string) => void;
}

const CARD = "sheet-card p-4";

function Adding({
  blog,
  checked,
  right,
  onRight,
  onAdded,
}: Pick<CheckedCardProps, "blog" | "right" | "onRight" | "onAdded"> & { checked: Checked }) {
  const [title, setTitle] = useState(checked.title);
  const adding = useChange(() => addSource(blog, checked.url, title, sentRight(right)), {
    refresh: [keys.sources(blog)],
    onDone: ({ key }) => onAdded(key),
  });
  if (adding.data) {
    return (
      <p className="flex items-center gap-2 font-medium text-verd">
        <Lozenge kind="publish" /> Added as “{adding.data.title}”, with {plural(adding.data.captured, "item")}
        .
        {adding.data.same_as && (
          <span className="text-ochre">
            It has the same items as “{adding.data.same_as}”: it seems to be the same feed at another address.
          </span>
        )}
        <Link className={buttonLook("primary", true)} to={desk.newCampaign(blog, adding.data.key)}>
          New campaign on it
        </Link>
      </p>
    );
  }
  if (checked.known_as) return <p className="text-ink3">This source exists already: “{checked.known_as}”.</p>;
  return (
    <form
      className="flex flex-wrap items-center gap-x-4 gap-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        adding.mutate();
      }}
    >
      <label className="flex items-center gap-2">
        <span className="whitespace-nowrap text-ink3">Name</span>
        <input
          className={`${inputLook} w-64`}
          value={title}
          maxLength={300}
          onChange={(event) => setTitle(event.target.value)}
        />
      </label>
      <SayRight value={right} onChange={onRight} />
      <Button type="submit" look="primary" busy={adding.isPending}>
        Add this feed
      </Button>
      {adding.error && (
        <span role="alert" className="font-medium text-madder">
          {adding.error.message}
        </span>
      )}
    </form>
  );
}

/** The result of testing an address: a feed with its newest items, named feeds, or an error. */
export function CheckedCard({ blog, address, checked, onFollow, right, onRight, onAdded }: CheckedCardProps) {
  if (!checked) {
    return (
      <div className={CARD} role="status">
        <span className="font-medium">{address}</span>{" "}
        <span className="animate-pulse text-ink3">is being read…</span>
      </div>
    );
  }
  if (checked.error) {
    return (
      <div className={`${CARD} border-madder`} role="alert">
        <p className="flex items-center gap-2 font-semibold">
          <Lozenge kind="refused" /> {address}
        </p>
        <p className="mt-1 text-madder">{checked.detail}</p>
        {checked.remedy && <p className="mt-1 text-ink2">{checked.remedy}</p>}
        <Button small className="mt-2" onClick={() => onFollow(address)}>
          Try again
        </Button>
        {checked.error === "page" && (
          <Link className={`${buttonLook("plain", true)} ml-2`} to={desk.newReader(blog, checked.url)}>
            Read its pages instead
          </Link>
        )}
      </div>
    );
  }
  if (checked.leads_to.length) {
    return (
      <div className={CARD}>
        <p className="font-semibold">{address}</p>
        <p className="text-ink2">This is a web page; it names {plural(checked.leads_to.length, "feed")}:</p>
        <ul className="mt-2 space-y-1">
          {checked.leads_to.map((link) => (
            <li key={link.url} className="flex items-center gap-2">
              <Pill>{link.format}</Pill>
              <span className="font-medium">{link.title || link.url}</span>
              <Button small onClick={() => onFollow(link.url)}>
                Read this one
              </Button>
            </li>
          ))}
        </ul>
      </div>
    );
  }
  return (
    <div className={CARD}>
      <p className="flex items-center gap-2">
        <Lozenge kind="publish" />
        <span className="font-display text-[15px] font-semibold">{checked.title || address}</span>
        <Pill tone="verd">{checked.format}</Pill>
        <span className="text-ink3">
          {plural(checked.items, "item")} · read in {milliseconds(checked.milliseconds)}
        </span>
      </p>
      <p className="mb-3 text-xs text-ink3">{checked.url}</p>
      <div className="grid grid-cols-[minmax(0,1fr)_260px] gap-6">
        <Samples samples={checked.samples} />
        <FieldsFilled fields={checked.fields} items={checked.items} />
      </div>
      {checked.warnings.length > 0 && (
        <p className="mt-2 text-xs text-ochre">{warningWords(checked.warnings).join(" · ")}</p>
      )}
      <div className="mt-3 border-t border-line2 pt-3">
        <Adding blog={blog} checked={checked} right={right} onRight={onRight} onAdded={onAdded} />
      </div>
    </div>
  );
}
