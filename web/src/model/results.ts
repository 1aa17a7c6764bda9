import { believed, has } from "./json";
import type { components } from "./schema.gen";
import { asQuantity } from "./quantity";

type S = components["schemas"];

type Camel<T extends string> = T extends `${infer A}-${infer B}`
  ? `${Capitalize<A>}${Camel<B>}`
  : Capitalize<T>;

type Results = { [K in keyof S as K extends `${infer N}Out` ? N : never]: S[K] };

/** What a calculator gives, by its name in the catalogue. */
export type ResultOf<Calc extends string> = Camel<Calc> extends keyof Results ? Results[Camel<Calc>] : never;

type Inputs = { [K in keyof S as K extends `${infer N}In` ? N : never]: S[K] };

/** What a calculator takes, by its name in the catalogue. */
export type InputOf<Calc extends string> = Camel<Calc> extends keyof Inputs ? Inputs[Camel<Calc>] : never;

/** What was sent, as it is answered: a quantity that may be sent as text comes back as one. */
export type Answered<T> = unknown extends T
  ? T
  : S["Quantity"] extends T
    ? Exclude<T, string>
    : T extends object
      ? { [K in keyof T]: Answered<T[K]> }
      : T;

/** What every result carries, and figures of its own. */
export type AnyResult = { method: string; source: string[] } & { [figure: string]: unknown };

/**
 * A result as it came in JSON. Its method names the calculator, whose type the
 * server keeps to.
 */
export function resultOf<Calc extends string>(calc: Calc, result: unknown): ResultOf<Calc> | undefined {
  const any = anyResult(result);
  return any?.method.startsWith(`${calc}/`) ? believed(any) : undefined;
}

export function anyResult(result: unknown): AnyResult | undefined {
  return has(result, "method") ? believed(result) : undefined;
}

/** What a filled quantity means, as workshop.FillResult has it. */
export const filledOf = (result: unknown) => believed<S["FillResult"] | undefined>(result);

/** The float that was promised for a pack when it was fitted. */
export const expectedFloat = (expected: unknown) =>
  has(expected, "float") ? asQuantity(expected.float) : undefined;

/** What a calculator is given at a step; its fields are the calculator's, some may not be known yet. */
export const inputOf = <Calc extends string>(_calc: Calc, input: unknown) =>
  believed<Partial<Answered<InputOf<Calc>>>>(input);
