import { LeaveGuard } from "@/components/LeaveGuard";

interface EditGuardProps {
  edited: { changed: boolean; keepsDrafts: boolean };
}

/** What is said of edits that a person leaves behind. */
export function guardWords({ keepsDrafts }: { keepsDrafts: boolean }): string {
  return keepsDrafts
    ? "They are kept as a draft in this browser. You find them again when you come back."
    : "This browser keeps no drafts, so they are lost.";
}

/** Asks before a person leaves a document with edits that are not saved. */
export function EditGuard({ edited }: EditGuardProps) {
  return <LeaveGuard when={edited.changed} text={guardWords(edited)} />;
}
