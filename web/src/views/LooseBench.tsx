import { useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { benches, type Face } from "../benches/bench";
import { Drawing as Figures, Meaning as Says } from "../benches/generic";
import { ApiError } from "../model/problem";
import { spoken, valueAt, withAt } from "../model/at";
import { has } from "../model/json";
import { inWords } from "../model/figures";
import { inputOf, resultOf } from "../model/results";
import { asFields, type Fields, said, type Schema } from "../model/schema";
import { begun } from "../model/words";
import { Bar } from "../parts/Bar";
import { useAsked, useCalculator, useCatalogue, useWords, useSchema, useUnits } from "../data/calc";
import type { Circle } from "../data/gauge";
import { useGauges } from "../data/shop";
import { Fault } from "../parts/Fault";
import { useTitle } from "../parts/focus";
import { Gauge } from "../parts/gauge";
import { toNextField } from "../parts/gauge/typed";
import { SchemaForm } from "../parts/SchemaForm";
import { TakeAway } from "./TakeAway";

/** Any calculator without a rebuild: its inputs in the address, its worked example at first. */
export function LooseBench() {
  const { name = "" } = useParams({ strict: false });
  const catalogue = useCatalogue();
  const known = catalogue.data?.calculators.find((c) => c.name === name);
  const { ask = "" } = useSearch({ strict: false });
  const asked = useAsked(name, ask);
  const title = begun(name.replaceAll("-", " "));
  useTitle(title);
  return (
    <div className="min-h-screen">
      <Bar>
        <h1 className="text-head">{title}</h1>
      </Bar>
      <main tabIndex={-1} className="max-w-[1280px] mx-auto p-5">
        <Fault error={catalogue.error} />
        {catalogue.data && !known && <p>There is no calculator of that name.</p>}
        {known && !asked.isLoading && (
          <Stands
            key={name}
            name={name}
            title={title}
            purpose={known.purpose}
            example={asked.data ?? known.example}
          />
        )}
      </main>
    </div>
  );
}

type StandsProps = { name: string; title: string; purpose: string; example: unknown };

function Stands({ name, title, purpose, example }: StandsProps) {
  const { face, error, named } = useFace(name, title, example);
  const Own = benches[name];
  const [sheet, means] = [useRef<HTMLDivElement>(null), useRef<HTMLDivElement>(null)];
  return (
    <div
      ref={sheet}
      className="grid grid-cols-[minmax(0,1fr)_320px] max-[1000px]:grid-cols-1 gap-6 items-start"
    >
      <div className="min-w-0">
        <p className="hidden print:block text-title">{title}</p>
        <p className="text-quiet">{begun(purpose)}.</p>
        {Own ? <Own.Drawing {...face} /> : <Figures {...face} />}
      </div>
      <aside aria-label="What it means" className="flex flex-col gap-4">
        <h2 className="sr-only">What it means</h2>
        <Fault error={error} typing named={named} />
        <div ref={means} className="flex flex-col gap-4">
          {Own ? <Own.Meaning {...face} /> : <Says {...face} />}
        </div>
        <TakeAway title={title} sheet={sheet} means={means} />
      </aside>
    </div>
  );
}

/** What a bench that stands loose shows: the input as typed in the address, and what it comes to. */
function useFace(name: string, title: string, example: unknown) {
  const { value, onValue } = useInput(example);
  const schema = useSchema(name).data?.input;
  const units = useUnits().data;
  const { words } = inWords(useWords(), units);
  const gauges = useGauges().data?.gauges ?? [];
  const [touched, onTouch] = useState(-1);
  const input = inputOf(name, said(value));
  const { error, data } = useCalculator(name, input);
  const errorAt = (path: string) => (error instanceof ApiError ? error.field(path) : undefined);
  const onInput = (next: unknown) => onValue(asFields(next));
  const rest = (taken: readonly string[]) => (
    <>
      <Gauge gauges={gauges} onCircle={turnOf(input, onInput)} />
      {schema && <Inputs schema={without(schema, taken)} {...{ value, onValue, errorAt, words }} />}
    </>
  );
  const given = (path: string) => ({
    says: valueAt(value, path),
    error: errorAt(path),
    onText: (text: string) => onValue(withAt(value, path, text)),
  });
  const out = error ? undefined : resultOf(name, data);
  const face: Face<string> = {
    title,
    out,
    input,
    onInput,
    units,
    questions: rest([]),
    rest,
    given,
    touched,
    onTouch,
  };
  return { face, error, named: (path: string) => spoken(path, words) };
}

/** What the drawing does not take, a field each; Enter leads from one to the next. */
const Inputs = (p: Parameters<typeof SchemaForm>[0]) => (
  <form
    aria-label="Input"
    className="mt-3.5 flex flex-wrap gap-3 items-start"
    onSubmit={(e) => {
      e.preventDefault();
      toNextField();
    }}
  >
    <input type="submit" hidden value="Next field" aria-label="Next field" />
    <SchemaForm {...p} />
  </form>
);

/** A description of fields but for some. */
const without = (schema: Schema, names: readonly string[]): Schema => ({
  ...schema,
  properties: Object.fromEntries(Object.entries(schema.properties ?? {}).filter(([n]) => !names.includes(n))),
  ...(schema["x-order"] && { "x-order": schema["x-order"].filter((n) => !names.includes(n)) }),
});

/** A whole turn is what is read, where that is read by the clock. */
function turnOf(said: unknown, onInput: (next: unknown) => void) {
  const byClock = has(said, "readings") && Array.isArray(said.readings) && has(said.readings[0], "clock");
  return byClock ? (readings: Circle) => onInput({ ...said, readings }) : undefined;
}

/** What is typed at the bench: it stands in the address, so that it can be sent to somebody. */
function useInput(example: unknown) {
  const { in: sent } = useSearch({ strict: false });
  const go = useNavigate();
  const [value, setValue] = useState<Fields>(() => asFields(sent ?? example));
  const [changed, setChanged] = useState(false);
  useEffect(() => {
    if (!changed) return undefined;
    const wait = setTimeout(() => void go({ to: ".", search: { in: said(value) }, replace: true }), 300);
    return () => clearTimeout(wait);
  }, [changed, go, value]);
  return {
    value,
    onValue(next: Fields) {
      setValue(next);
      setChanged(true);
    },
  };
}
