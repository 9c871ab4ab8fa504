import { useEffect, useState } from "react";

type Theme = "light" | "dark";

const KEY = "glyptarch-theme";

function chosen(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

/** Light or dark: the system's choice until the person makes one. */
export function useTheme(): [Theme, () => void] {
  const [theme, setTheme] = useState<Theme>(chosen);
  useEffect(() => {
    document.documentElement.dataset.theme = theme;
  }, [theme]);
  function turn() {
    const next = theme === "dark" ? "light" : "dark";
    localStorage.setItem(KEY, next);
    setTheme(next);
  }
  return [theme, turn];
}
