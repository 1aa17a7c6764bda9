import { placed } from "./number";

/**
 * Times are said one way everywhere, in the shop's time zone: 2026-11-26 11:36.
 * The server prints and logs them in the same form.
 */
let zone: string | undefined;

const moments = () =>
  new Intl.DateTimeFormat("sv-SE", { timeZone: zone, dateStyle: "short", timeStyle: "short" });

/** To make one takes a slow tablet milliseconds, and a list says dozens of times. */
let said = moments();
const weekdays = new Intl.DateTimeFormat("en-GB", { timeZone: "UTC", weekday: "short" });

/** The shop's zone by its IANA name; a name that this browser does not know leaves its own. */
export function setZone(name: string) {
  try {
    zone = new Intl.DateTimeFormat("sv-SE", { timeZone: name }).resolvedOptions().timeZone;
  } catch {
    zone = undefined;
  }
  said = moments();
}

/** 2026-11-26 11:36. Swedish dates are written as ISO 8601 has them. */
export const moment = (at: string | Date) => said.format(new Date(at));

/** 2026-11-26, of a time. */
export const day = (at: string | Date) => moment(at).slice(0, 10);

/** The weekday of a day like 2026-11-26: Thu. */
export const weekday = (date: string) => weekdays.format(new Date(`${date}T12:00Z`));

/** Whole days from today in the shop to a day. */
export const daysUntil = (date: string, now: Date = new Date()) =>
  Math.round((Date.parse(`${date}T00:00Z`) - Date.parse(`${day(now)}T00:00Z`)) / 86_400_000);

/** The day that is n days from today in the shop. */
export const dayFromNow = (n: number, now: Date = new Date()) =>
  new Date(Date.parse(`${day(now)}T00:00Z`) + n * 86_400_000).toISOString().slice(0, 10);

const week = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];

/** A day as it is typed: 2026-12-03, its next Friday as "fri", in five days as "+5"; empty while it is none. */
export function dayTyped(text: string, now: Date = new Date()): string {
  const said = text.trim().toLowerCase();
  const [, n] = /^\+(\d{1,3})$/.exec(said) ?? [];
  if (n) return dayFromNow(placed(n), now);
  const named =
    said.length < 2
      ? -1
      : week.findIndex((w) => said.startsWith(w.slice(0, said.length)) || said.startsWith(w));
  if (named >= 0) {
    const today = new Date(`${day(now)}T12:00Z`).getUTCDay();
    return dayFromNow((named - today + 7) % 7 || 7, now);
  }
  const at = new Date(`${said}T12:00Z`);
  return /^\d{4}-\d\d-\d\d$/.test(said) && at.getTime() === at.getTime() && at.toISOString().startsWith(said)
    ? said
    : "";
}
