import { Disclosure, DisclosureButton, DisclosurePanel } from "@headlessui/react";
import { blank, type Fields, fieldsOf, kindOf, type Schema, type Value } from "../model/schema";
import { begun } from "../model/words";
import { Answers } from "./Answers";
import { Button } from "./Button";
import { Field } from "./Field";

type FormProps = {
  schema: Schema;
  value: Fields;
  onValue: (value: Fields) => void;
  /** What is wrong at a path: readings[2].reading. */
  errorAt: (path: string) => string | undefined;
  words: (name: string) => string;
  at?: string;
};

/** Asks for any input: what is said or has to be stands open, what else may be said below. */
export function SchemaForm({ schema, value, onValue, errorAt, words, at = "" }: FormProps) {
  const all = fieldsOf(schema);
  const open = all.filter(([name]) => name in value || schema.required?.includes(name));
  const more = all.filter(([name]) => !open.some(([o]) => o === name));
  const asked = ([name, field]: [string, Schema]) => (
    <Asked
      key={name}
      label={begun(words(name))}
      schema={field}
      value={value[name]}
      onValue={(v) => onValue({ ...value, [name]: v })}
      errorAt={errorAt}
      words={words}
      at={at === "" ? name : `${at}.${name}`}
    />
  );
  return (
    <>
      {open.map(asked)}
      {more.length > 0 && (
        <Disclosure as="div" className="basis-full">
          <DisclosureButton className="underline underline-offset-3 min-h-11 text-blue text-small">
            More inputs
          </DisclosureButton>
          <DisclosurePanel className="flex flex-wrap gap-3 items-start">{more.map(asked)}</DisclosurePanel>
        </Disclosure>
      )}
    </>
  );
}

type AskedProps = Omit<FormProps, "value" | "onValue" | "at"> & {
  label: string;
  at: string;
  value: Value | undefined;
  onValue: (value: Value) => void;
};

function Asked(p: AskedProps) {
  const { label, schema, value, onValue, errorAt, at } = p;
  switch (kindOf(schema)) {
    case "list":
      return <List {...p} value={Array.isArray(value) ? value : []} />;
    case "fields":
      return (
        <fieldset className="border border-hair p-3 flex flex-wrap gap-3 items-start">
          <legend className="text-small text-quiet px-1">{label}</legend>
          <SchemaForm {...p} value={typeof value === "object" && !Array.isArray(value) ? value : {}} />
        </fieldset>
      );
    case "choice":
      return (
        <Answers
          label={label}
          answers={(schema.enum ?? []).filter(Boolean).map((id) => ({ id, text: id.replaceAll("_", " ") }))}
          chosen={typeof value === "string" ? value : undefined}
          keyed={false}
          marks
          onPick={(id) => onValue(id === value ? "" : id)}
        />
      );
    case "yes-no":
      return (
        <label className="min-h-11 flex items-center gap-2 self-end">
          <input
            type="checkbox"
            className="size-6"
            checked={value === true}
            onChange={(e) => onValue(e.target.checked)}
          />
          {label}
        </label>
      );
    default:
      return (
        <Field
          label={label}
          value={typeof value === "string" ? value : ""}
          onValue={onValue}
          error={errorAt(at)}
          {...(kindOf(schema) === "number" ? { inputMode: "decimal" } : { "data-takes": true })}
          className="basis-[150px]"
        />
      );
  }
}

type ListProps = Omit<AskedProps, "value"> & { value: Value[] };

/** A list, a line each; one more line is begun, the last is taken away. */
function List({ label, schema, value, onValue, errorAt, words, at }: ListProps) {
  const item = schema.items ?? {};
  return (
    <fieldset className="basis-full border border-hair p-3 flex flex-wrap gap-3 items-end">
      <legend className="text-small text-quiet px-1">{label}</legend>
      {errorAt(at) && <p className="basis-full text-out text-note">{errorAt(at)}</p>}
      {value.map((v, i) => (
        <Asked
          key={i}
          label={`${label} ${i + 1}`}
          schema={item}
          value={v}
          onValue={(x) => onValue(value.map((y, k) => (k === i ? x : y)))}
          errorAt={errorAt}
          words={words}
          at={`${at}[${i}]`}
        />
      ))}
      <Button look="quiet" onClick={() => onValue([...value, blank(item)])}>
        Add a line
      </Button>
      {value.length > 0 && (
        <Button look="quiet" onClick={() => onValue(value.slice(0, -1))}>
          One less
        </Button>
      )}
    </fieldset>
  );
}
