import { useCallback, useState } from "react";

/** Items picked for a proof. */
export function usePicked() {
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());
  const pick = useCallback(
    (item: number) =>
      setPicked((before) => {
        const next = new Set(before);
        if (!next.delete(item)) next.add(item);
        return next;
      }),
    [],
  );
  const clear = useCallback(() => setPicked(new Set()), []);
  return { picked, pick, clear };
}
