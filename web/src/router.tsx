import { createRootRoute, createRoute, createRouter, lazyRouteComponent } from "@tanstack/react-router";
import { Shell } from "./views/Shell";
import { BoardView } from "./views/Board";

const rootRoute = createRootRoute({ component: Shell });

const board = createRoute({ getParentRoute: () => rootRoute, path: "/", component: BoardView });
const open = createRoute({
  getParentRoute: () => rootRoute,
  path: "/open",
  component: lazyRouteComponent(() => import("./views/OpenRebuild"), "OpenRebuild"),
});
const rebuild = createRoute({
  getParentRoute: () => rootRoute,
  path: "/rebuilds/$id",
  component: lazyRouteComponent(() => import("./views/RebuildView"), "RebuildView"),
});
const step = createRoute({
  getParentRoute: () => rootRoute,
  path: "/rebuilds/$id/$step",
  component: lazyRouteComponent(() => import("./views/RebuildView"), "RebuildView"),
});
const account = createRoute({
  getParentRoute: () => rootRoute,
  path: "/account",
  component: lazyRouteComponent(() => import("./views/Account"), "AccountView"),
});
const record = createRoute({
  getParentRoute: () => rootRoute,
  path: "/records/$id",
  component: lazyRouteComponent(() => import("./views/RecordView"), "RecordView"),
});

export const router = createRouter({
  routeTree: rootRoute.addChildren([board, open, rebuild, step, record, account]),
  defaultPreload: "intent",
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
