import { type QueryKey, useMutation, useQueryClient } from "@tanstack/react-query";

interface ChangeOptions<Given, Result> {
  /** What is read anew once it is done. */
  refresh?: readonly QueryKey[];
  onDone?: (result: Result, given: Given) => void;
}

/** Something that is changed on the server: afterwards all that shows it is read anew, then `onDone` is told. */
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
