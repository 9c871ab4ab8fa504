import { cleanup, configure } from "@testing-library/react";
import { afterEach, beforeEach, vi } from "vitest";
import { draftsInMemory, keepDraftsIn } from "@/lib/editing/draft-store";

// How long a step may take on a slow machine, in milliseconds.
configure({ asyncUtilTimeout: 10_000 });

beforeEach(() => keepDraftsIn(draftsInMemory()));

afterEach(() => {
  vi.restoreAllMocks();
  if (typeof document === "undefined") return;
  cleanup();
  localStorage.clear();
});
