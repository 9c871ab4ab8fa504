import { cleanup, configure } from "@testing-library/react";
import { afterEach, vi } from "vitest";

// How long a step may take on a slow machine, in milliseconds.
configure({ asyncUtilTimeout: 10_000 });

afterEach(() => {
  vi.restoreAllMocks();
  if (typeof document === "undefined") return;
  cleanup();
  localStorage.clear();
});
