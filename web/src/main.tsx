import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { ProblemError } from "@/api/client";
import { keys } from "@/api/keys";
import { App } from "@/app/App";
import { Toasts } from "@/ui/Toasts";
import "./index.css";

/** Any answer can show that the session has expired; refetching it leads to the sign-in. */
function onError(error: unknown): void {
  if (error instanceof ProblemError && error.status === 401)
    queries.invalidateQueries({ queryKey: keys.session() });
}

const queries: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError }),
  mutationCache: new MutationCache({ onError }),
  defaultOptions: {
    queries: {
      retry: (failures, error) => failures < 2 && !(error instanceof ProblemError && error.status > 0),
    },
  },
});

// One route for all, because only a data router can block leaving a screen.
const router = createBrowserRouter([{ path: "*", element: <App /> }]);

const root = document.getElementById("root");
if (!root) throw new Error("index.html has no root");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Toasts>
        <RouterProvider router={router} />
      </Toasts>
    </QueryClientProvider>
  </StrictMode>,
);
