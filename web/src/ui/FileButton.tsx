import { useRef } from "react";
import { Button } from "./Button";

interface FileButtonProps {
  children: string;
  /** What the field is called for a screen reader. */
  label: string;
  accept: string;
  onFile: (file: File) => void;
}

/** A button that lets a person choose one file. */
export function FileButton({ children, label, accept, onFile }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button small onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        aria-label={label}
        accept={accept}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          // The same file can be chosen again after it was changed.
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </>
  );
}
