import { useKeepGauge } from "../../data/shop";
import type { Instrument } from "../../model/types";
import { Button } from "../../parts/Button";
import { Form, useForm } from "../../parts/Form";
import { Picked } from "../../parts/Picked";

export function GaugeForm({ was, kind = "", kinds, onDone }: GaugeProps) {
  const keep = useKeepGauge();
  const { said, put, line, clear } = useForm(saidOf(was, kind), keep);
  const { mpe, repeatability, due, address, ...must } = said;
  const kept = {
    ...must,
    ...(was && { id: was.id }),
    ...(mpe && { mpe }),
    ...(repeatability && { repeatability }),
    ...(due && { due }),
    ...(address && { address }),
  };
  const done = () => (onDone ? onDone() : clear());
  const ways = onDone && (
    <>
      {!was?.ended && (
        <Button
          disabled={keep.isPending}
          onClick={() => keep.mutate({ ...kept, ended: true }, { onSuccess: done })}
        >
          Take out of use
        </Button>
      )}
      <Button onClick={onDone}>Cancel</Button>
    </>
  );
  return (
    <Form
      label={was?.name ?? "A new gauge"}
      write={keep}
      value={kept}
      onTaken={done}
      className="p-5 grid grid-cols-3 max-[820px]:grid-cols-1 gap-3 items-end"
      go="Save"
      beside={ways}
    >
      {line("name", "Name, as it appears in the record", { placeholder: "Dial indicator no. 3" })}
      <Picked label="Kind" value={said.kind} onValue={(v) => put("kind", v)} of={[...kinds, said.kind]} />
      {line("due", "Calibration due", { type: "date" })}
      {line("resolution", "Smallest division", { placeholder: "0.01 mm" })}
      {line("mpe", "Permitted error ±", { placeholder: "0.012 mm" })}
      {line("repeatability", "Repeatability", { placeholder: "0.004 mm" })}
      {line("address", "Network address, if it can be read from here", { placeholder: "192.168.1.40:4001" })}
    </Form>
  );
}

type GaugeProps = { was?: Instrument; kind?: string; kinds: readonly string[]; onDone?: () => void };

const saidOf = (g: Instrument | undefined, kind: string) => ({
  kind: g?.kind ?? kind,
  name: g?.name ?? "",
  resolution: text(g?.resolution),
  mpe: text(g?.mpe),
  repeatability: text(g?.repeatability),
  due: g?.due ?? "",
  address: g?.address ?? "",
});

/** A division as it is typed. */
export const text = (q: { value: number; unit: string } | null | undefined) =>
  q ? `${q.value} ${q.unit}` : "";
