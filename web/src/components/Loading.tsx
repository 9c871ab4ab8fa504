export function Loading({ what, rows = 6 }: { what: string; rows?: number }) {
  return (
    <div role="status" aria-busy="true" className="space-y-2 p-4">
      <span className="sr-only">Loading {what}</span>
      {Array.from({ length: rows }, (_, row) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: all rows are alike
        <div key={row} className="h-9 animate-pulse rounded-md bg-sunk" />
      ))}
    </div>
  );
}
