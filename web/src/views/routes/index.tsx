import { Link } from "@tanstack/react-router";
import { Bar } from "../../parts/Bar";
import { useRoutes } from "../../data/sheets";
import { Fault } from "../../parts/Fault";
import { useTitle } from "../../parts/focus";

/** The routes of the book by kind of unit, with what the shop does otherwise. */
export function RoutesView() {
  useTitle("Routes");
  const list = useRoutes();
  const routes = list.data ?? [];
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">Routes</h1>
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1280px] mx-auto p-5 grid grid-cols-2 max-[900px]:grid-cols-1 gap-5 items-start"
      >
        <Fault error={list.error} />
        {[...new Set(routes.map((r) => r.kind))].map((kind) => (
          <section key={kind} aria-label={kind} className="bg-sheet border border-ink">
            <h2 className="text-head px-5 py-2.5 border-b border-ink">{kind}</h2>
            <ul>
              {routes
                .filter((r) => r.kind === kind)
                .map((r) => (
                  <li key={r.id} className="border-b border-hair last:border-b-0">
                    <Link
                      to="/routes/$id"
                      params={{ id: r.id }}
                      className="flex flex-wrap gap-x-4 justify-between min-h-11 items-center px-5 text-ink no-underline hover:bg-tint/40"
                    >
                      <span className="text-line font-semibold">{r.title}</span>
                      <span className="text-quiet">
                        {[r.own ? `your version ${r.own}` : "standard", r.unused && "not offered"]
                          .filter(Boolean)
                          .join(", ")}
                      </span>
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </main>
    </div>
  );
}
