import { cleanup, configure } from "@testing-library/react";
import { afterEach, beforeEach, vi } from "vitest";
import { draftsInMemory, keepDraftsIn } from "@/lib/editing/draft-store";

// For all files, since they share their modules: one that shows a list unmocked would leave it so for the next.
vi.mock("@tanstack/react-virtual", async () => ({
  useVirtualizer: (await import("@/testing/virtual")).useAllRows,
}));

// How long a step may take on a slow machine, in milliseconds.
configure({ asyncUtilTimeout: 10_000 });

beforeEach(() => keepDraftsIn(draftsInMemory()));

afterEach(() => {
  vi.restoreAllMocks();
  if (typeof document === "undefined") return;
  cleanup();
  localStorage.clear();
});
