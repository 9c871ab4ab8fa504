import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { Stage } from "@/api/proofs";
import { STAGES } from "@/lib/wording";
import { ITEM_COLUMNS, ITEM_FILTERS, type ItemFilter, type ItemSort } from "./items/shown-items";

function oneOf<T extends string>(value: string | null, known: readonly T[], usual: T): T {
  return known.includes(value as T) ? (value as T) : usual;
}

/** The sort in the address: the column, with a minus for descending. */
function readSort(text: string | null): ItemSort | null {
  const by = ITEM_COLUMNS.find((column) => column === text?.replace(/^-/, ""));
  return by ? { by, down: Boolean(text?.startsWith("-")) } : null;
}

/** The person's place on the bench, part of the address, so that it can be shared. */
export function useBenchPlace() {
  const [params, setParams] = useSearchParams();
  const [stage, setStage] = useState<Stage>(() => oneOf(params.get("stage"), STAGES, "sift"));
  const [filter, setFilter] = useState<ItemFilter>(() => oneOf(params.get("items"), ITEM_FILTERS, "all"));
  const [chosen, setChosen] = useState<number | null>(() => Number(params.get("item")) || null);
  const [source, setSource] = useState(() => params.get("source") ?? "");
  const [sort, setSort] = useState(() => readSort(params.get("sort")));
  useEffect(() => {
    const place = {
      stage,
      items: filter,
      ...(source && { source }),
      ...(sort && { sort: `${sort.down ? "-" : ""}${sort.by}` }),
      ...(chosen !== null && { item: String(chosen) }),
    };
    // A needless replacement would cancel a navigation under way.
    if (new URLSearchParams(place).toString() !== params.toString()) setParams(place, { replace: true });
  }, [stage, filter, source, sort, chosen, params, setParams]);
  return { stage, setStage, filter, setFilter, source, setSource, sort, setSort, chosen, setChosen };
}
