import { useState } from "react";
import type { Asks } from "@/api/platforms";
import { pointedAt } from "./paths";

/** Picking values in an answer: the target field, and the path that a click writes. */
export function usePointing(asks: Asks, onChange: (asks: Asks) => void) {
  const [aimed, setAimed] = useState<string | undefined>();
  function pick(path: readonly (string | number)[]) {
    const { list, field } = pointedAt(path);
    const parameters = { ...asks.parameters, list };
    const fields = asks.parameters.fields as Record<string, string>;
    if (field && aimed) {
      onChange({ ...asks, parameters: { ...parameters, fields: { ...fields, [aimed]: field } } });
      setAimed(undefined);
    } else onChange({ ...asks, parameters });
  }
  return { aimed, aim: (name: string) => setAimed(name === aimed ? undefined : name), pick };
}
