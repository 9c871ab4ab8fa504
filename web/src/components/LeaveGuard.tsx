import { useEffect, useId, useSyncExternalStore } from "react";
import { LeaveQuestion } from "./LeaveQuestion";

interface LeaveGuardProps {
  /** Whether there is anything to lose. */
  when: boolean;
  text: string;
}

/** The guards with something to lose, in the order in which they got it; the first asks for all. */
let unsaved: readonly string[] = [];
const listeners = new Set<() => void>();

function change(next: readonly string[]) {
  unsaved = next;
  for (const listener of listeners) listener();
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** Asks before a person leaves a screen with edits that are not saved: by a link, Back, a reload, a closed tab. */
export function LeaveGuard({ when, text }: LeaveGuardProps) {
  const id = useId();
  useEffect(() => {
    if (!when) return;
    change([...unsaved, id]);
    return () => change(unsaved.filter((other) => other !== id));
  }, [when, id]);
  const first = useSyncExternalStore(subscribe, () => unsaved[0]);
  return when && first === id ? <LeaveQuestion text={text} /> : null;
}
