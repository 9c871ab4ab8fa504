import { useState } from "react";
import { useNavigate } from "react-router";
import { takeSources } from "@/api/campaigns";
import { keys } from "@/api/keys";
import {
  type AccessOfMany,
  changeAccessOfSources,
  changeRightsOfSources,
  changeSources,
  findSourceKeys,
  opmlAddress,
  type RightsOfMany,
  type SourceChange,
  type SourceSearch,
} from "@/api/sources";
import { useChange } from "@/api/useChange";
import { FormError } from "@/components/FormError";
import { desk } from "@/lib/blog-path";
import { count, plural } from "@/lib/format";
import { Button, buttonLook } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { inputLook } from "@/ui/Field";
import { useTell } from "@/ui/Toasts";
import { AccessTogether } from "./AccessTogether";
import { CampaignTogether } from "./CampaignTogether";
import { RightsTogether } from "./RightsTogether";

const DONE: Record<SourceChange, string> = {
  pause: "paused",
  resume: "resumed",
  label: "labelled",
  unlabel: "without the label",
  remove: "removed",
};

interface TogetherProps {
  blog: string;
  picked: ReadonlySet<string>;
  /** What the list is narrowed by, and how many sources that finds. */
  found: SourceSearch & { total: number };
  /** Whether all that were found are picked, those of other pages too. */
  all: boolean;
  labels: readonly string[];
  onAll: () => void;
  onDone: () => void;
}

/** Actions for the selected sources. */
export function Together({ blog, picked, found, all, labels, onAll, onDone }: TogetherProps) {
  const tell = useTell();
  const navigate = useNavigate();
  const { total, ...search } = found;
  const number = all ? total : picked.size;
  const [label, setLabel] = useState("");
  const changing = useChange(
    (change: SourceChange) =>
      changeSources(
        blog,
        all ? { keys: [], found: search, change, label } : { keys: [...picked], change, label },
      ),
    {
      refresh: [keys.sources(blog), keys.source(blog)],
      onDone: ({ changed }, change) => {
        tell(`${plural(changed, "source")} ${DONE[change]}.`);
        if (change === "remove") onDone();
      },
    },
  );
  const beginning = useChange(async () => (all ? await findSourceKeys(blog, search) : [...picked]), {
    onDone: (sources) => navigate(desk.newCampaign(blog), { state: { sources } }),
  });
  const [asking, setAsking] = useState<"rights" | "access" | "campaign" | null>(null);
  const allowing = useChange(
    (rights: RightsOfMany) =>
      changeRightsOfSources(blog, {
        ...rights,
        ...(all ? { keys: [], found: search } : { keys: [...picked] }),
      }),
    {
      refresh: [keys.sources(blog), keys.source(blog), keys.proof(blog)],
      onDone: ({ changed }) => {
        setAsking(null);
        tell(`The rights of ${plural(changed, "source")} changed.`);
      },
    },
  );
  const reaching = useChange(
    (access: AccessOfMany) =>
      changeAccessOfSources(blog, {
        ...access,
        ...(all ? { keys: [], found: search } : { keys: [...picked] }),
      }),
    {
      refresh: [keys.sources(blog), keys.source(blog)],
      onDone: ({ changed }) => {
        setAsking(null);
        tell(changed ? `${plural(changed, "source")} will be asked so.` : "They are all asked so already.");
      },
    },
  );
  const adding = useChange(
    async (slug: string) => takeSources(blog, slug, all ? await findSourceKeys(blog, search) : [...picked]),
    {
      refresh: [keys.campaigns(blog), keys.campaign(blog), keys.proof(blog)],
      onDone: ({ added }) => {
        setAsking(null);
        tell(added ? `${plural(added, "source")} added to the campaign.` : "The campaign had them all.");
      },
    },
  );
  return (
    <div className="border-b border-line2 bg-verd-wash px-5 py-1.5">
      <div className="flex flex-wrap items-center gap-1.5">
        {plural(number, "source")} picked
        {!all && total > picked.size && (
          <Button small look="quiet" onClick={onAll}>
            Pick all {count(total)} found
          </Button>
        )}
        <Button small look="quiet" onClick={onDone}>
          Pick none
        </Button>
        <Button small busy={beginning.isPending} onClick={() => beginning.mutate()}>
          New campaign
        </Button>
        <Button small onClick={() => setAsking("campaign")}>
          Add to a campaign
        </Button>
        <Button small onClick={() => setAsking("rights")}>
          Rights
        </Button>
        <Button small onClick={() => setAsking("access")}>
          How they are asked
        </Button>
        <Button small onClick={() => changing.mutate("pause")}>
          Pause
        </Button>
        <Button small onClick={() => changing.mutate("resume")}>
          Resume
        </Button>
        <input
          aria-label="Label"
          placeholder="label"
          list="labels-of-sources"
          maxLength={60}
          className={`${inputLook} !w-20 !py-0.5`}
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
        <datalist id="labels-of-sources">
          {labels.map((label) => (
            <option key={label} value={label} />
          ))}
        </datalist>
        <Button small disabled={!label.trim()} onClick={() => changing.mutate("label")}>
          Add label
        </Button>
        <Button small disabled={!label.trim()} onClick={() => changing.mutate("unlabel")}>
          Take label off
        </Button>
        {!all && (
          <a className={buttonLook("plain", true)} href={opmlAddress(blog, [...picked])} download>
            As OPML
          </a>
        )}
        <Confirm
          trigger={
            <Button small look="danger">
              Remove
            </Button>
          }
          title={`Remove ${plural(number, "source")}?`}
          text="They are not read any more. Their items and the posts made from them stay."
          action="Remove"
          onConfirm={() => changing.mutate("remove")}
        />
      </div>
      {asking === "rights" && (
        <RightsTogether
          number={number}
          busy={allowing.isPending}
          error={allowing.error}
          onSave={allowing.mutate}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === "access" && (
        <AccessTogether
          number={number}
          busy={reaching.isPending}
          error={reaching.error}
          onSave={reaching.mutate}
          onClose={() => setAsking(null)}
        />
      )}
      {asking === "campaign" && (
        <CampaignTogether
          blog={blog}
          number={number}
          busy={adding.isPending}
          error={adding.error}
          onAdd={adding.mutate}
          onClose={() => setAsking(null)}
        />
      )}
      <FormError error={changing.error ?? beginning.error} />
    </div>
  );
}
