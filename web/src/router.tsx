import { createRootRoute, createRoute, createRouter, lazyRouteComponent } from "@tanstack/react-router";
import { Shell } from "./views/Shell";
import { BoardView } from "./views/Board";

const rootRoute = createRootRoute({ component: Shell });

const board = createRoute({ getParentRoute: () => rootRoute, path: "/", component: BoardView });
const open = createRoute({
  getParentRoute: () => rootRoute,
  path: "/open",
  component: lazyRouteComponent(() => import("./views/intake"), "Intake"),
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
  component: lazyRouteComponent(() => import("./views/account/index"), "AccountView"),
});
const shop = createRoute({
  getParentRoute: () => rootRoute,
  path: "/shop",
  component: lazyRouteComponent(() => import("./views/shop"), "ShopView"),
});
const gauges = createRoute({
  getParentRoute: () => rootRoute,
  path: "/gauges",
  component: lazyRouteComponent(() => import("./views/gauges/index"), "GaugesView"),
});
const practice = createRoute({
  getParentRoute: () => rootRoute,
  path: "/practice",
  component: lazyRouteComponent(() => import("./views/practice/index"), "PracticeView"),
});
const calculators = createRoute({
  getParentRoute: () => rootRoute,
  path: "/calculators",
  component: lazyRouteComponent(() => import("./views/Calculators"), "Calculators"),
});
const drawers = createRoute({
  getParentRoute: () => rootRoute,
  path: "/drawers",
  component: lazyRouteComponent(() => import("./views/drawers"), "DrawersView"),
});
const find = createRoute({
  getParentRoute: () => rootRoute,
  path: "/find",
  component: lazyRouteComponent(() => import("./views/Find"), "Find"),
});
const unit = createRoute({
  getParentRoute: () => rootRoute,
  path: "/units/$id",
  component: lazyRouteComponent(() => import("./views/unit"), "UnitView"),
});
const customer = createRoute({
  getParentRoute: () => rootRoute,
  path: "/customers/$id",
  component: lazyRouteComponent(() => import("./views/customer"), "CustomerView"),
});
const sheets = createRoute({
  getParentRoute: () => rootRoute,
  path: "/sheets",
  component: lazyRouteComponent(() => import("./views/sheets"), "SheetsView"),
});
const sheet = createRoute({
  getParentRoute: () => rootRoute,
  path: "/sheets/$id",
  component: lazyRouteComponent(() => import("./views/sheets/SheetView"), "SheetView"),
});
const routes = createRoute({
  getParentRoute: () => rootRoute,
  path: "/routes",
  component: lazyRouteComponent(() => import("./views/routes"), "RoutesView"),
});
const route = createRoute({
  getParentRoute: () => rootRoute,
  path: "/routes/$id",
  component: lazyRouteComponent(() => import("./views/routes/RouteView"), "RouteView"),
});
const trays = createRoute({
  getParentRoute: () => rootRoute,
  path: "/trays/$id",
  component: lazyRouteComponent(() => import("./views/trays"), "TraysView"),
});
const costs = createRoute({
  getParentRoute: () => rootRoute,
  path: "/costs/$id",
  component: lazyRouteComponent(() => import("./views/costs"), "CostsView"),
});
const bench = createRoute({
  getParentRoute: () => rootRoute,
  path: "/bench/$name",
  // What stands there, or what was asked; a question that is a number alone comes as one.
  validateSearch: ({ in: sent, ask }: Record<string, unknown>): { in?: unknown; ask?: string } => ({
    ...(sent !== undefined && { in: sent }),
    ...((typeof ask === "string" || typeof ask === "number") && { ask: String(ask) }),
  }),
  component: lazyRouteComponent(() => import("./views/LooseBench"), "LooseBench"),
});
const record = createRoute({
  getParentRoute: () => rootRoute,
  path: "/records/$id",
  component: lazyRouteComponent(() => import("./views/RecordView"), "RecordView"),
});

export const router = createRouter({
  routeTree: rootRoute.addChildren([
    board,
    open,
    rebuild,
    step,
    record,
    account,
    find,
    unit,
    customer,
    sheets,
    sheet,
    routes,
    route,
    trays,
    costs,
    bench,
    drawers,
    gauges,
    practice,
    calculators,
    shop,
  ]),
  defaultPreload: "intent",
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
