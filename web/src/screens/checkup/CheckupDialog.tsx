import { useQuery } from "@tanstack/react-query";
import clsx from "clsx";
import { Link } from "react-router";
import { checkupQuery, type Finding } from "@/api/campaigns";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { findingWords, STEP_NAMES } from "@/lib/checkup";
import { Dialog } from "@/ui/Dialog";
import { Lozenge, type LozengeKind } from "@/ui/Lozenge";

interface CheckupDialogProps {
  blog: string;
  slug: string;
  name: string;
  onClose: () => void;
}

const MARKS: Record<Finding["state"], { kind: LozengeKind; label: string }> = {
  ok: { kind: "publish", label: "well" },
  note: { kind: "hold", label: "worth knowing" },
  stop: { kind: "refused", label: "stops here" },
};

interface StepProps {
  finding: Finding;
  place: { blog: string; slug: string };
  /** Whether this is the first step at which it stops. */
  stops: boolean;
}

function Step({ finding, place, stops }: StepProps) {
  const { found, remedy, link, further } = findingWords(finding, place);
  const { kind, label } = MARKS[finding.state];
  return (
    <li className={clsx("flex gap-2.5 rounded-md px-2.5 py-2", stops && "bg-madder-wash ring-1 ring-madder")}>
      <span className="mt-1">
        <Lozenge kind={kind} label={label} />
      </span>
      <div className="min-w-0 [overflow-wrap:anywhere]">
        <p>
          <span className="font-semibold">{STEP_NAMES[finding.step]}</span>{" "}
          {stops && <span className="font-semibold text-madder">stops here. </span>}
          {found}
        </p>
        {(remedy || link) && finding.state !== "ok" && (
          <p className="text-ink2">
            {remedy}{" "}
            {link && (
              <Link className="font-semibold text-verd underline" to={link.to}>
                {link.name}
              </Link>
            )}{" "}
            {further && (
              <Link className="font-semibold text-verd underline" to={further.to}>
                {further.name}
              </Link>
            )}
          </p>
        )}
      </div>
    </li>
  );
}

/** Every step of a campaign from the address to the blog: where it stops, and what to do. */
export function CheckupDialog({ blog, slug, name, onClose }: CheckupDialogProps) {
  const found = useQuery(checkupQuery(blog, slug));
  const first = found.data?.findIndex(({ state }) => state === "stop") ?? -1;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Why is nothing arriving?"
      description={`Every step of “${name}” from the address to the blog.`}
    >
      {found.error && <ErrorNote error={found.error} onRetry={found.refetch} />}
      {found.isPending && <Loading what="the steps" rows={6} />}
      {found.data && (
        <>
          {first < 0 && <p className="mb-2 font-medium text-verd">Nothing stops it.</p>}
          <ol aria-label="Steps" className="space-y-1">
            {found.data.map((finding, place) => (
              <Step key={finding.code} finding={finding} place={{ blog, slug }} stops={place === first} />
            ))}
          </ol>
        </>
      )}
    </Dialog>
  );
}
