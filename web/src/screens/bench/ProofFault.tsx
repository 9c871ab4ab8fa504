import type { CampaignDocument } from "@/api/campaigns";
import { ProblemError } from "@/api/client";
import type { Stage } from "@/api/proofs";
import { faultPlace } from "@/lib/fault-place";
import { Button } from "@/ui/Button";

interface ProofFaultProps {
  error: Error;
  document: CampaignDocument;
  onShow: (stage: Stage, rule: string | null) => void;
  onRetry: () => void;
}

/** The reason why there is no proof: faults of the rules with their places, or an unreachable server. */
export function ProofFault({ error, document, onShow, onRetry }: ProofFaultProps) {
  const problem = error instanceof ProblemError ? error : null;
  const faults = problem?.faults ?? [];
  return (
    <div role="alert" className="border-b border-madder bg-madder-wash px-3.5 py-1.5 text-madder">
      {faults.length > 0 ? (
        <ul>
          {faults.map((fault) => {
            const place = faultPlace(document, fault.path);
            return (
              <li key={fault.path + fault.message}>
                {place && (
                  <button
                    type="button"
                    className="font-semibold underline"
                    onClick={() => onShow(place.stage, place.id)}
                  >
                    {place.words}
                  </button>
                )}
                {place && ": "}
                {fault.message}
                {fault.hint && `; ${fault.hint}`}
              </li>
            );
          })}
        </ul>
      ) : (
        <p>
          {problem?.title ?? "Something went wrong"}. {error.message}{" "}
          <Button small onClick={onRetry}>
            Try again
          </Button>
        </p>
      )}
      <p className="text-ink2">The list shows the last proof that could be made.</p>
    </div>
  );
}
