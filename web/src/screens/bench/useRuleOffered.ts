import { useEffect, useRef } from "react";
import type { SiftRule } from "@/api/campaigns";
import { newId } from "@/lib/rules";
import { useTell } from "@/ui/Toasts";
import type { Change } from "./useBench";

function ruleIn(text: string | null): SiftRule | null {
  try {
    const given = JSON.parse(text ?? "null");
    return given && typeof given.kind === "string" ? (given as SiftRule) : null;
  } catch {
    return null;
  }
}

/** Adds an unsaved Sift rule from the address, to show its effect. */
export function useRuleOffered(change: Change) {
  // Read before the address follows the place on the bench.
  const offered = useRef(ruleIn(new URLSearchParams(window.location.search).get("rule")));
  const tell = useTell();
  useEffect(() => {
    const rule = offered.current;
    if (!rule) return;
    offered.current = null;
    change((document) => {
      const { rules } = document.sift;
      const added = { ...rule, id: newId(rule.kind, rules) };
      return { ...document, sift: { ...document.sift, rules: [...rules, added] } };
    });
    tell("The rule is there and not saved yet. Look at what it refuses, then save or discard it.");
  }, [change, tell]);
}
