import { ProblemError } from "@/api/client";
import { Button } from "@/ui/Button";
import { Lozenge } from "@/ui/Lozenge";

/** An error: what happened, to what, and the remedy. */
export function ErrorNote({ error, onRetry }: { error: unknown; onRetry?: () => void }) {
  const problem = error instanceof ProblemError ? error : null;
  return (
    <div role="alert" className="m-4 rounded-lg border border-madder bg-madder-wash p-4">
      <p className="flex items-center gap-2 font-semibold text-madder">
        <Lozenge kind="refused" /> {problem?.title ?? "Something went wrong"}
      </p>
      <p className="mt-1 text-ink2">{problem?.message ?? "The page could not be made. Load it again."}</p>
      {onRetry && (
        <Button small className="mt-3" onClick={onRetry}>
          Try again
        </Button>
      )}
    </div>
  );
}
