import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { type ReactNode, useState } from "react";
import { createMemoryRouter, RouterProvider } from "react-router";

/** Renders an element as the app does, with routes and an empty cache. */
export function shown(what: ReactNode) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, enabled: false } } });
  const router = createMemoryRouter([{ path: "*", element: what }]);
  const view = render(
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>,
  );
  return { ...view, queries, user: userEvent.setup() };
}

/** Chooses another word of a sentence by keyboard. */
export async function pick(user: ReturnType<typeof userEvent.setup>, label: string, option: string | RegExp) {
  screen.getByRole("combobox", { name: label }).focus();
  await user.keyboard("{Enter}");
  await user.click(await screen.findByRole("option", { name: option }));
}

interface HeldProps<T> {
  begun: T;
  seen: T[];
  children: (value: T, set: (next: T) => void) => ReactNode;
}

/** Holds a value as the bench does, and records every state. */
export function Held<T>({ begun, seen, children }: HeldProps<T>) {
  const [value, setValue] = useState(begun);
  return children(value, (next) => {
    seen.push(next);
    setValue(next);
  });
}
