import type { Shop } from "../../model/types";
import { Answers } from "../../parts/Answers";
import { Field } from "../../parts/Field";

const unitFamilies = [
  { id: "metric", text: "Metric first" },
  { id: "inch", text: "Inch first" },
] as const;
const papers = [
  { id: "A4", text: "A4" },
  { id: "Letter", text: "Letter" },
] as const;

const here = Intl.DateTimeFormat().resolvedOptions().timeZone;
const zones = Intl.supportedValuesOf("timeZone");

/** What a workshop says of itself, as it is typed. */
export type ShopTyped = Omit<Shop, "hourly_rate" | "open_days" | "days_off" | "idle_minutes"> & {
  rate: string;
  idle: string;
  open: string;
  off: string;
};

export const newShop: ShopTyped = {
  name: "",
  units: "metric",
  currency: "EUR",
  rate: "",
  idle: "",
  open: "",
  off: "",
  zone: here,
  paper: "A4",
};

export const typedShop = ({
  hourly_rate: rate,
  idle_minutes: idle,
  open_days,
  days_off,
  ...shop
}: Shop): ShopTyped => ({
  ...shop,
  rate: String(rate),
  idle: String(idle ?? ""),
  open: (open_days ?? []).join(" "),
  off: (days_off ?? []).join(" "),
});

const wordsOf = (text: string) =>
  text
    .toLowerCase()
    .split(/[\s,;]+/)
    .filter(Boolean);

export const asShop = ({ rate, idle, open, off, ...shop }: ShopTyped): Shop => ({
  ...shop,
  ...(idle.trim() && { idle_minutes: idle }),
  open_days: wordsOf(open),
  days_off: wordsOf(off),
  hourly_rate: rate,
});

type Props = {
  shop: ShopTyped;
  onShop: (shop: ShopTyped) => void;
  errorAt: (field: string) => string | undefined;
  autoFocus?: boolean;
};

/** Name, units, rates, zone and paper of the workshop. */
export function ShopFields(p: Props) {
  return (
    <>
      <OnPapers {...p} />
      <Money {...p} />
      <Calendar {...p} />
    </>
  );
}

const OnPapers = ({ shop, onShop, errorAt, autoFocus = false }: Props) => (
  <>
    <Field
      label="Workshop name, as printed on paper"
      error={errorAt("name")}
      value={shop.name}
      onValue={(name) => onShop({ ...shop, name })}
      autoFocus={autoFocus}
      required
      className="sm:col-span-2"
    />
    <Field
      label="Address and telephone, on papers"
      error={errorAt("address")}
      value={shop.address ?? ""}
      onValue={(address) => onShop({ ...shop, address })}
      className="sm:col-span-2"
    />
    <Answers
      label="Units"
      answers={unitFamilies}
      chosen={shop.units}
      keyed={false}
      marks
      onPick={(id) => onShop({ ...shop, units: id === "inch" ? "inch" : "metric" })}
    />
    <Answers
      label="Paper"
      answers={papers}
      chosen={shop.paper}
      keyed={false}
      marks
      onPick={(id) => onShop({ ...shop, paper: id === "Letter" ? "Letter" : "A4" })}
    />
  </>
);

const Money = ({ shop, onShop, errorAt }: Props) => (
  <>
    <Field
      label="Hourly rate"
      error={errorAt("hourly_rate")}
      numeric
      inputMode="decimal"
      value={shop.rate}
      onValue={(rate) => onShop({ ...shop, rate })}
      required
    />
    <Field
      label="Currency, three letters"
      error={errorAt("currency")}
      value={shop.currency}
      onValue={(v) => onShop({ ...shop, currency: v.toUpperCase() })}
      maxLength={3}
      required
    />
  </>
);

const Calendar = ({ shop, onShop, errorAt }: Props) => (
  <>
    <Field
      label="Time zone"
      error={errorAt("zone")}
      value={shop.zone}
      onValue={(zone) => onShop({ ...shop, zone })}
      list="zones"
      required
      className="sm:col-span-2"
    />
    <Field
      label="Working days (empty: mon tue wed thu fri)"
      error={errorAt("open_days")}
      value={shop.open}
      onValue={(v) => onShop({ ...shop, open: v })}
    />
    <Field
      label="Days off, as 2026-12-25"
      error={errorAt("days_off")}
      value={shop.off}
      onValue={(v) => onShop({ ...shop, off: v })}
    />
    <datalist id="zones">
      {zones.map((z) => (
        <option key={z}>{z}</option>
      ))}
    </datalist>
  </>
);
