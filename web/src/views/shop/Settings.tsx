import { useState } from "react";
import { useKeepShop } from "../../data/shop";
import { moment } from "../../model/moment";
import type { ShopView as Said } from "../../model/types";
import { Field } from "../../parts/Field";
import { Form, useForm } from "../../parts/Form";
import { Section } from "../../parts/Page";
import { asShop, ShopFields, typedShop } from "./ShopFields";

export function Settings({ shop: now, kept, onKept }: SettingsProps) {
  const keep = useKeepShop(onKept);
  const { last_backup: last, log_fault: _log, backup_fault: _backup, ...own } = now;
  const [shop, setShop] = useState(() =>
    typedShop({ ...own, units: own.units || "metric", paper: own.paper || "A4" }),
  );
  const { errorAt } = useForm({}, keep);
  const says = last && `${moment(last.at)}, ${last.file}`;
  return (
    <Section title="Workshop details">
      <Form
        label="The workshop"
        write={keep}
        value={asShop(shop)}
        className="p-5 grid grid-cols-2 max-[600px]:grid-cols-1 gap-4"
        go="Save"
        beside={kept && <Kept />}
      >
        <ShopFields shop={shop} onShop={setShop} errorAt={errorAt} />
        <Field
          label="Footer of the printed record"
          value={shop.foot ?? ""}
          onValue={(foot) => setShop({ ...shop, foot })}
          error={errorAt("foot")}
          className="col-span-full"
        />
        <Field
          label="Idle minutes before a bench tablet asks who is there"
          value={shop.idle}
          onValue={(idle) => setShop({ ...shop, idle })}
          inputMode="numeric"
          placeholder="10"
          error={errorAt("idle_minutes")}
          className="col-span-full"
        />
        <div className="col-span-full">
          <Field
            label="Folder on the server for nightly backups (empty for none)"
            value={shop.backups ?? ""}
            onValue={(backups) => setShop({ ...shop, backups })}
            error={errorAt("backups")}
            placeholder="/mnt/backup"
          />
          <p className="text-quiet text-note mt-1">
            {says ? `Last good backup: ${says}.` : "No nightly backup yet."} Keep copies, and the shop's key,
            on another machine too.
          </p>
        </div>
      </Form>
    </Section>
  );
}

type SettingsProps = { shop: Said; kept: boolean; onKept: () => void };

const Kept = () => (
  <p role="status" className="text-in">
    Saved.
  </p>
);
