import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useLeads } from "../../data/session";
import { useKeepShop, useShop } from "../../data/shop";
import { moment } from "../../model/moment";
import type { ShopView as Said } from "../../model/types";
import { theme } from "../../parts/Bar";
import { Button } from "../../parts/Button";
import { Fault } from "../../parts/Fault";
import { Field } from "../../parts/Field";
import { Form, useForm } from "../../parts/Form";
import { Page, Section } from "../../parts/Page";
import { rooms } from "./rooms";
import { asShop, ShopFields, typedShop } from "./ShopFields";

/** What belongs to the shop: its sheets, its drawers, its people, and what it says of itself. */
export function ShopView() {
  const leads = useLeads();
  const shop = useShop();
  const [kept, setKept] = useState(false); // here, for what was kept is shown anew
  const faults = [shop.data?.log_fault, shop.data?.backup_fault].filter(Boolean);
  return (
    <Page
      title={shop.data?.name || "Shop"}
      called="Shop"
      className="grid grid-cols-[340px_minmax(0,1fr)] max-[900px]:grid-cols-1 gap-5 items-start"
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
        {faults.map((fault) => (
          <p
            key={fault}
            role="alert"
            className="bg-sheet border border-out border-l-6 px-4 py-3 text-line font-semibold"
          >
            {fault}
          </p>
        ))}
        {shop.data && leads && (
          <Settings
            key={JSON.stringify(shop.data)}
            shop={shop.data}
            kept={kept}
            onKept={() => setKept(true)}
          />
        )}
      </div>
    </Page>
  );
}

type SettingsProps = { shop: Said; kept: boolean; onKept: () => void };

function Settings({ shop: now, kept, onKept }: SettingsProps) {
  const keep = useKeepShop(onKept);
  const { last_backup: last, log_fault: _log, backup_fault: _backup, ...own } = now;
  const [shop, setShop] = useState(() =>
    typedShop({ ...own, units: own.units || "metric", paper: own.paper || "A4" }),
  );
  const { errorAt } = useForm({}, keep);
  const says = last && `${moment(last.at)}, ${last.file}`;
  return (
    <Section title="What the workshop says of itself">
      <Form
        label="The workshop"
        write={keep}
        value={asShop(shop)}
        className="p-5 grid grid-cols-2 max-[600px]:grid-cols-1 gap-4"
        go="Keep"
        beside={kept && <Kept />}
      >
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
          value={shop.idle}
          onValue={(idle) => setShop({ ...shop, idle })}
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
            {says ? `The last good one: ${says}.` : "None has been written by itself yet."} Keep them, and the
            shop's key, on another machine too.
          </p>
        </div>
      </Form>
    </Section>
  );
}

const Kept = () => (
  <p role="status" className="text-in">
    Kept.
  </p>
);
