import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";

export interface ChangeOptions<Given, Result> {
  /** Cache keys to refetch afterwards. */
  refresh?: readonly QueryKey[] | ((given: Given) => readonly QueryKey[]);
  onDone?: (result: Result, given: Given) => void;
  /** What is done about a fault, where the screen does not show it. */
  onFault?: (fault: Error, given: Given) => void;
}

/** A change on the server; afterwards the named queries are refetched, then `onDone` runs. */
export function useChange<Given = void, Result = unknown>(
  change: (given: Given) => Promise<Result>,
  { refresh = [], onDone, onFault }: ChangeOptions<Given, Result> = {},
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: async (result, given) => {
      const stale = typeof refresh === "function" ? refresh(given) : refresh;
      await Promise.all(stale.map((queryKey) => queries.invalidateQueries({ queryKey })));
      onDone?.(result, given);
    },
    onError: (fault, given) => onFault?.(fault, given),
  });
}
