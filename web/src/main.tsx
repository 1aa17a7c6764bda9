import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { ApiError } from "./model/problem";
import { fetchAhead } from "./data/rebuilds";
import { router } from "./router";
import "./theme.css";

document.documentElement.dataset["theme"] =
  localStorage.getItem("handwerk.theme") ??
  (matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light");

const cache = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      networkMode: "always",
      retry: (failures, e) => !(e instanceof ApiError && e.status < 500) && failures < 60,
      retryDelay: (n) => Math.min(500 * 1.6 ** n, 4000),
    },
  },
});

// News of these come by the stream only while somebody looks at them: whoever
// comes back sees what was there, and looks again.
for (const told of ["rebuild", "board"]) cache.setQueryDefaults([told], { staleTime: 0 });

// A session that ran out shows the sign-in again, wherever it is noticed.
cache.getQueryCache().subscribe((event) => {
  const e = event.query.state.error;
  if (
    event.type === "updated" &&
    e instanceof ApiError &&
    e.status === 401 &&
    event.query.queryKey[0] !== "session"
  ) {
    void cache.invalidateQueries({ queryKey: ["session"] });
  }
});

fetchAhead(cache, location.pathname);
if (location.pathname.startsWith("/rebuilds/")) {
  void import("./views/RebuildView");
  void import("./steps/kinds").catch(() => undefined); // asked for again there
}

// The kinds one does not stand at, and the mark of the window, come when all else is there.
window.addEventListener("load", () =>
  setTimeout(() => {
    if (location.pathname.startsWith("/rebuilds/"))
      void import("./steps/kinds").then(
        (kinds) => kinds.fetchScreens(),
        () => undefined,
      );
    document.querySelector("link[rel=icon]")?.setAttribute("href", "/mark.svg");
  }, 1500),
);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={cache}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
