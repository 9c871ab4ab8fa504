import type { OpenApi } from "@/api/openapi";

export interface Operation {
  id: string;
  method: string;
  path: string;
  text: string;
}

export interface OperationGroup {
  name: string;
  operations: Operation[];
}

/** Returns the operations that match a search, grouped by topic. */
export function operationsOf(schema: OpenApi, search: string): OperationGroup[] {
  const words = search.trim().toLowerCase();
  const groups = new Map<string, Operation[]>();
  for (const [path, methods] of Object.entries(schema.paths))
    for (const [method, one] of Object.entries(methods)) {
      const text = one.description ?? one.summary ?? "";
      if (!`${path} ${text} ${one.operationId}`.toLowerCase().includes(words)) continue;
      const name = one.tags?.[0] ?? "other";
      groups.set(name, [
        ...(groups.get(name) ?? []),
        { id: one.operationId, method: method.toUpperCase(), path, text },
      ]);
    }
  return [...groups].map(([name, operations]) => ({ name, operations }));
}
