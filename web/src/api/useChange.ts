import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";

interface ChangeOptions<Given, Result> {
  /** Cache keys to refetch afterwards. */
  refresh?: readonly QueryKey[];
  onDone?: (result: Result, given: Given) => void;
}

/** A change on the server; afterwards the named queries are refetched, then `onDone` runs. */
export function useChange<Given = void, Result = unknown>(
  change: (given: Given) => Promise<Result>,
  { refresh = [], onDone }: ChangeOptions<Given, Result> = {},
) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: async (result, given) => {
      await Promise.all(refresh.map((queryKey) => queries.invalidateQueries({ queryKey })));
      onDone?.(result, given);
    },
  });
}
