import { useState } from "react";
import { Button } from "@/ui/Button";
import { inputLook } from "@/ui/Field";

/** A text with a button to copy it. */
export function CopyText({ label, text }: { label: string; text: string }) {
  const [copied, setCopied] = useState(false);
  return (
    <div className="flex gap-2">
      <input
        aria-label={label}
        className={`${inputLook} font-mono text-xs`}
        readOnly
        value={text}
        onFocus={(event) => event.target.select()}
      />
      <Button
        onClick={async () => {
          await navigator.clipboard?.writeText(text);
          setCopied(true);
        }}
      >
        {copied ? "Copied" : "Copy"}
      </Button>
    </div>
  );
}
