import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { MemoryRouter } from "react-router";
import { afterEach } from "vitest";

afterEach(cleanup);

/** Show something as the app would, with routes and a cache that asks nobody. */
export function shown(what: ReactNode) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, enabled: false } } });
  const view = render(
    <QueryClientProvider client={queries}>
      <MemoryRouter>{what}</MemoryRouter>
    </QueryClientProvider>,
  );
  return { ...view, queries, user: userEvent.setup() };
}

interface HeldProps<T> {
  begun: T;
  seen: T[];
  children: (value: T, set: (next: T) => void) => ReactNode;
}

/** Hold a value as the bench does, and keep every state it went through. */
export function Held<T>({ begun, seen, children }: HeldProps<T>) {
  const [value, setValue] = useState(begun);
  return children(value, (next) => {
    seen.push(next);
    setValue(next);
  });
}
