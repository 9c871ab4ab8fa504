import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { Stage } from "@/api/proofs";
import { STAGES } from "@/lib/wording";
import { ITEM_FILTERS, type ItemFilter } from "./shown-items";

function oneOf<T extends string>(value: string | null, known: readonly T[], usual: T): T {
  return known.includes(value as T) ? (value as T) : usual;
}

/** Where a person is on the bench. The address follows stage, list and item, so that it can be sent and come back to. */
export function useBenchPlace() {
  const [params, setParams] = useSearchParams();
  const [stage, setStage] = useState<Stage>(() => oneOf(params.get("stage"), STAGES, "sift"));
  const [filter, setFilter] = useState<ItemFilter>(() => oneOf(params.get("items"), ITEM_FILTERS, "all"));
  const [chosen, setChosen] = useState<number | null>(() => Number(params.get("item")) || null);
  useEffect(() => {
    const place = { stage, items: filter, ...(chosen === null ? {} : { item: String(chosen) }) };
    setParams(place, { replace: true });
  }, [stage, filter, chosen, setParams]);
  return { stage, setStage, filter, setFilter, chosen, setChosen };
}
