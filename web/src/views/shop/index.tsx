import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { useContext, useState } from "react";
import { ApiError, client, unwrap } from "../../model/client";
import { moment } from "../../model/moment";
import type { Shop } from "../../model/types";
import { Bar, theme } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { useSession } from "../../parts/data";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { useTitle } from "../../parts/focus";
import { HelpContext } from "../help";
import { asShop, ShopFields, typedShop } from "./ShopFields";

const rooms = [
  {
    to: "/sheets",
    title: "Spec sheets",
    says: "Limits, torques, fills and figures of each family, with their versions.",
  },
  {
    to: "/routes",
    title: "Routes",
    says: "Which ones you offer, and how you go them: schools, minutes, words, steps left out or put in.",
  },
  {
    to: "/drawers",
    title: "Drawers",
    says: "Shims, washers, dowels, circlips, cans: what lies where, and what is short.",
  },
  {
    to: "/gauges",
    title: "Gauges",
    says: "What is read with: division, permitted error, when the calibration is due.",
  },
  {
    to: "/account",
    title: "People",
    says: "Who works here, other programs, your own password and sessions.",
  },
] as const;

/** What belongs to the shop: its sheets, its drawers, its people, and what it says of itself. */
export function ShopView() {
  useTitle("Shop");
  const help = useContext(HelpContext);
  const role = useSession().data?.person.role;
  const shop = useQuery({ queryKey: ["shop"], queryFn: () => unwrap(client.GET("/api/v1/shop")) });
  const [kept, setKept] = useState(false); // here, for what was kept is shown anew
  return (
    <div className="min-h-screen">
      <Bar onHelp={help}>
        <h1 className="text-head">{shop.data?.name || "Shop"}</h1>
      </Bar>
      <main
        tabIndex={-1}
        className="max-w-[1280px] mx-auto p-5 grid grid-cols-[340px_minmax(0,1fr)] max-[900px]:grid-cols-1 gap-5 items-start"
      >
        <nav aria-label="The shop's things" className="bg-sheet border border-ink">
          {rooms.map((r) => (
            <Link
              key={r.to}
              to={r.to}
              className="block px-5 py-3.5 border-b border-hair text-ink no-underline hover:bg-tint/40"
            >
              <span className="block text-head">{r.title}</span>
              <span className="text-quiet">{r.says}</span>
            </Link>
          ))}
          <div className="px-5 py-3.5 flex items-center justify-between">
            <span className="text-quiet">This screen</span>
            <Button hint="D" onClick={theme.turn}>
              Light or dark
            </Button>
          </div>
        </nav>
        <div className="flex flex-col gap-5">
          <Fault error={shop.error} />
          {[shop.data?.log_fault, shop.data?.backup_fault].filter(Boolean).map((fault) => (
            <p
              key={fault}
              role="alert"
              className="bg-sheet border border-out border-l-6 px-4 py-3 text-line font-semibold"
            >
              {fault}
            </p>
          ))}
          {shop.data && role === "lead" && (
            <Settings
              key={JSON.stringify(shop.data)}
              shop={shop.data}
              kept={kept}
              onKept={() => setKept(true)}
              last={
                shop.data.last_backup && `${moment(shop.data.last_backup.at)}, ${shop.data.last_backup.file}`
              }
            />
          )}
        </div>
      </main>
    </div>
  );
}

type SettingsProps = { shop: Shop; last: string | undefined; kept: boolean; onKept: () => void };

function Settings({ shop: now, last, kept, onKept }: SettingsProps) {
  const cache = useQueryClient();
  const [shop, setShop] = useState(() =>
    typedShop({ ...now, units: now.units || "metric", paper: now.paper || "A4" }),
  );
  const keep = useMutation({
    mutationFn: () => unwrap(client.POST("/api/v1/shop", { body: onlyShop(asShop(shop)) })),
    onSuccess: (said) => {
      cache.setQueryData(["shop"], said);
      onKept();
      void cache.invalidateQueries({ queryKey: ["session"] });
    },
  });
  const errorAt = (f: string) => (keep.error instanceof ApiError ? keep.error.field(f) : undefined);
  const told = keep.error instanceof ApiError && (keep.error.problem.fields?.length ?? 0) > 0;
  return (
    <form
      className="bg-sheet border border-ink"
      onSubmit={(e) => {
        e.preventDefault();
        if (!keep.isPending) keep.mutate();
      }}
    >
      <h2 className="text-head px-5 py-3 border-b border-hair">What the workshop says of itself</h2>
      <div className="p-5 grid grid-cols-2 max-[600px]:grid-cols-1 gap-4">
        <ShopFields shop={shop} onShop={setShop} errorAt={errorAt} />
        <Field
          label="Words at the foot of the printed record"
          value={shop.foot ?? ""}
          onValue={(foot) => setShop({ ...shop, foot })}
          error={errorAt("foot")}
          className="col-span-full"
        />
        <Field
          label="Minutes of rest, then a tablet at the bench asks who stands there"
          value={String(shop.idle_minutes ?? "")}
          onValue={(m) => setShop({ ...shop, idle_minutes: m })}
          inputMode="numeric"
          placeholder="10"
          error={errorAt("idle_minutes")}
          className="col-span-full"
        />
        <div className="col-span-full">
          <Field
            label="Directory on the server for a backup every night; empty for none"
            value={shop.backups ?? ""}
            onValue={(backups) => setShop({ ...shop, backups })}
            error={errorAt("backups")}
            placeholder="/mnt/backup"
          />
          <p className="text-quiet text-note mt-1">
            {last ? `The last good one: ${last}.` : "None has been written by itself yet."} Keep them, and the
            shop's key, on another machine too.
          </p>
        </div>
        <div className="col-span-full flex items-center gap-4">
          <Button look="go" type="submit" hint="Enter" disabled={keep.isPending}>
            Keep
          </Button>
          {kept && (
            <p role="status" className="text-in">
              Kept.
            </p>
          )}
        </div>
        {!told && <Fault error={keep.error} />}
      </div>
    </form>
  );
}

/** What is read beside the shop's own words is not said back. */
const onlyShop = ({
  name,
  units,
  currency,
  hourly_rate,
  zone,
  paper,
  foot,
  backups,
  idle_minutes,
}: Shop): Shop => ({
  name,
  units,
  currency,
  hourly_rate,
  zone,
  paper,
  ...(foot && { foot }),
  ...(idle_minutes && { idle_minutes }),
  ...(backups && { backups }),
});
