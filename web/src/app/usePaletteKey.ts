import { useEffect, useState } from "react";

/** Whether the finder is open; Ctrl+K (Command+K on a Mac) toggles it. */
export function usePaletteKey(): [boolean, (open: boolean) => void] {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    function pressed(event: KeyboardEvent) {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      setOpen((before) => !before);
    }
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, []);
  return [open, setOpen];
}
