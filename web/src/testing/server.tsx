import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { createMemoryRouter, Route, RouterProvider, Routes, useLocation } from "react-router";
import { vi } from "vitest";
import { client, ProblemError } from "@/api/client";
import { type Session, sessionQuery } from "@/api/session";
import { Toasts } from "@/ui/Toasts";

export interface Call {
  /** Method and path as the schema names them: `GET /api/blogs/{blog}/posts`. */
  what: string;
  path: Record<string, unknown>;
  query: Record<string, unknown>;
  body: unknown;
}

interface Init {
  params?: { path?: Record<string, unknown>; query?: Record<string, unknown> };
  body?: unknown;
}

type Answers = Record<string, unknown>;
type Ask = (path: string, init?: Init) => Promise<unknown>;

const METHODS = ["GET", "POST", "PUT", "PATCH", "DELETE"] as const;

function answer(value: unknown): unknown {
  if (!(value instanceof ProblemError)) return { data: value, response: new Response(null) };
  const { message: detail, title, faults, status } = value;
  return { error: { detail, title, faults }, response: new Response(null, { status }) };
}

/** What most tests are about: the blog of an owner. */
const USUAL: Answers = {
  "GET /api/blogs": [{ slug: "b", title: "Almanac", role: "owner" }],
  "GET /api/blogs/{blog}/archived-campaigns": [],
  "POST /api/blogs/{blog}/chosen-sources": { rows: [], total: 0, lost: [] },
};

/** Answers the app's requests and records them. A function is called for each request. */
export function answering(given: Answers): Call[] {
  const answers: Answers = { ...USUAL, ...given };
  const calls: Call[] = [];
  for (const method of METHODS) {
    vi.spyOn(client as unknown as Record<string, Ask>, method).mockImplementation(async (path, init) => {
      const what = `${method} ${path}`;
      const call = {
        what,
        path: init?.params?.path ?? {},
        query: init?.params?.query ?? {},
        body: init?.body,
      };
      calls.push(call);
      if (!(what in answers)) throw new Error(`Nobody answers ${what}`);
      const value = answers[what];
      return answer(typeof value === "function" ? await value(call) : value);
    });
  }
  return calls;
}

/** The last request of a kind. */
export function last(calls: readonly Call[], what: string): Call {
  const found = calls.filter((call) => call.what === what).at(-1);
  if (!found)
    throw new Error(`${what} was not asked; asked were ${calls.map((call) => call.what).join(", ")}`);
  return found;
}

function Address() {
  const { pathname, search } = useLocation();
  return <p data-testid="address">{pathname + search}</p>;
}

/** Renders a screen at its address; `answering` sets the server's answers. */
export function screenAt(address: string, route: string, element: ReactNode, person: Session | null = null) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, gcTime: 0 } } });
  if (person) {
    queries.setQueryDefaults(sessionQuery.queryKey, { gcTime: Number.POSITIVE_INFINITY });
    queries.setQueryData(sessionQuery.queryKey, person);
  }
  const inside = (
    <>
      <Address />
      <Routes>
        <Route path={route} element={element} />
        <Route path="*" element={null} />
      </Routes>
    </>
  );
  const router = createMemoryRouter([{ path: "*", element: inside }], { initialEntries: [address] });
  const view = render(
    <QueryClientProvider client={queries}>
      <Toasts>
        <RouterProvider router={router} />
      </Toasts>
    </QueryClientProvider>,
  );
  return {
    ...view,
    queries,
    router,
    user: userEvent.setup(),
    address: () => view.getByTestId("address").textContent,
  };
}
