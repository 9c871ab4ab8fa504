import { useState } from "react";
import { Button } from "@/ui/Button";
import { Question } from "@/ui/Question";
import { guardWords } from "./EditGuard";

interface CloseButtonProps {
  edited: { changed: boolean; keepsDrafts: boolean };
  onClose: () => void;
}

/** Closes a form, after a question where edits are not saved. */
export function CloseButton({ edited, onClose }: CloseButtonProps) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button onClick={() => (edited.changed ? setAsking(true) : onClose())}>Close</Button>
      {asking && (
        <Question
          title="Close with edits that are not saved?"
          text={guardWords(edited)}
          stay="Stay"
          go="Close"
          onStay={() => setAsking(false)}
          onGo={onClose}
        />
      )}
    </>
  );
}
