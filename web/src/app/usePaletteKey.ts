import { useState } from "react";
import { useKeys } from "@/ui/useKeys";

/** Whether the finder is open; Ctrl+K (Command+K on a Mac) toggles it. */
export function usePaletteKey(): [boolean, (open: boolean) => void] {
  const [open, setOpen] = useState(false);
  useKeys((event) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
    return () => setOpen((before) => !before);
  });
  return [open, setOpen];
}
