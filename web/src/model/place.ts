import { placed } from "./number";

/**
 * Where at its step an entry stands, as in workshop.Place: a trial, a reading
 * or an answer in it, a bolt in a pass, or a line, part or caution by its id.
 */
export type Place = { trial?: number; reading?: number; pass?: number; bolt?: number; name?: string };

const shapes = {
  trial: /^([1-9]\d*)(?:\.(?:([1-9]\d*)|(.+)))?$/s,
  bolt: /^p([1-9]\d*)\.b([1-9]\d*)$/,
};

export function readPlace(text = ""): Place {
  const [, trial, reading, ask] = shapes.trial.exec(text) ?? [];
  if (trial)
    return { trial: placed(trial), ...(reading && { reading: placed(reading) }), ...(ask && { name: ask }) };
  const [, pass, bolt] = shapes.bolt.exec(text) ?? [];
  if (pass) return { pass: placed(pass), bolt: placed(bolt) };
  return text === "" ? {} : { name: text };
}

export function placeText(p: Place): string {
  if (p.bolt) return `p${p.pass}.b${p.bolt}`;
  if (p.reading) return `${p.trial}.${p.reading}`;
  if (p.trial && p.name) return `${p.trial}.${p.name}`;
  return p.trial ? String(p.trial) : (p.name ?? "");
}
