import { vi } from "vitest";

/** Is told to which row a list was scrolled. */
export const scrolled = vi.fn();

interface Rows {
  count: number;
  estimateSize: () => number;
}

/** Stands in for `useVirtualizer`: nothing has a height in tests, so every row is shown. */
export function useAllRows({ count, estimateSize }: Rows) {
  return {
    getTotalSize: () => count * estimateSize(),
    getVirtualItems: () =>
      Array.from({ length: count }, (_, index) => ({
        index,
        start: index * estimateSize(),
        size: estimateSize(),
      })),
    scrollToIndex: (index: number) => scrolled(index),
  };
}
