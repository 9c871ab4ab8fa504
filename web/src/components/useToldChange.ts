import { type ChangeOptions, useChange } from "@/api/useChange";
import { useTell } from "@/ui/Toasts";

/** A change whose fault is told in a notice. */
export function useToldChange<Given = void, Result = unknown>(
  change: (given: Given) => Promise<Result>,
  options: ChangeOptions<Given, Result> = {},
) {
  const tell = useTell();
  return useChange(change, {
    ...options,
    onFault: (fault, given) => {
      tell(fault.message, { tone: "bad" });
      options.onFault?.(fault, given);
    },
  });
}
