import { useQuery } from "@tanstack/react-query";
import { decisionQuery } from "@/api/runs";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { Trace } from "@/components/Trace";
import { Dialog } from "@/ui/Dialog";

interface DecisionDialogProps {
  blog: string;
  id: number;
  onClose: () => void;
}

export function DecisionDialog({ blog, id, onClose }: DecisionDialogProps) {
  const decision = useQuery(decisionQuery(blog, id));
  return (
    <Dialog open onOpenChange={onClose} title={decision.data?.item.title ?? "Decision"}>
      {decision.error && <ErrorNote error={decision.error} onRetry={decision.refetch} />}
      {decision.isPending && <Loading what="the trace" rows={4} />}
      {decision.data && (
        <div className="max-h-[60vh] overflow-auto">
          <Trace blog={blog} decision={decision.data} />
        </div>
      )}
    </Dialog>
  );
}
