import type { ReactNode } from "react";
import type { Face } from "../bench";
import { GivenAt } from "../given";

type Props = { face: Face<"gear-choice"> };

const wanted = [
  ["gear", "gear"],
  ["road_speed", "at"],
  ["engine_speed", "engine"],
  ["ratio", "ratio"],
  ["percent", "percent"],
] as const;

/** The shop's list, a line each with one to spare: gears, final drives, ranges, tyres; and what is in it. */
export function Lists({ face }: Props) {
  const { sets = [], finals = [], ranges = [], tyres = [] } = face.input;
  return (
    <div className="flex flex-col gap-4 mt-3.5">
      {sets.map((set, i) => (
        <Line key={i} title={i === 0 ? "Gears" : ""}>
          <GivenAt face={face} path={`sets[${i}].name`} label="gears" />
          {set.gears.map((g, j) => (
            <GivenAt key={j} face={face} path={`sets[${i}].gears[${j}].ratio`} label={g.name} />
          ))}
        </Line>
      ))}
      <Named face={face} list="finals" title="Final drives" many={finals.length} fields={["ratio"]} />
      <Named face={face} list="ranges" title="Ranges" many={ranges.length} fields={["high", "low"]} />
      <Named face={face} list="tyres" title="Tyres" many={tyres.length} fields={["size", "circumference"]} />
      <Line title="In it now">
        {(["set", "final", "range", "tyre"] as const).map((part) => (
          <GivenAt key={part} face={face} path={`present.${part}`} label={part} />
        ))}
      </Line>
      {(face.input.wanted ?? []).map((w, i) => (
        <Line key={i} title={i === 0 ? "Wanted" : ""}>
          <span className="self-end min-h-11 content-center text-note min-w-[150px]">
            {kinds[w.kind] ?? w.kind}
          </span>
          {wanted
            .filter(([key]) => asked[w.kind]?.includes(key))
            .map(([key, label]) => (
              <GivenAt key={key} face={face} path={`wanted[${i}].${key}`} label={label} />
            ))}
        </Line>
      ))}
    </div>
  );
}

const kinds: Record<string, string> = {
  engine_speed_at: "engine speed on the road",
  speed_at: "road speed of the engine",
  crawl_at_least: "crawls, at least",
  speedometer_within: "speedometer true within",
};

const asked: Record<string, string[]> = {
  engine_speed_at: ["gear", "road_speed", "engine_speed"],
  speed_at: ["gear", "road_speed", "engine_speed"],
  crawl_at_least: ["ratio"],
  speedometer_within: ["percent"],
};

type NamedProps = Props & { list: string; title: string; many: number; fields: string[] };

/** Entries of one list beside each other, the next one empty. */
const Named = ({ face, list, title, many, fields }: NamedProps) => (
  <Line title={title}>
    {Array.from({ length: many + 1 }, (_, i) => (
      <span key={i} className="flex border-l border-hair pl-2">
        {["name", ...fields].map((field) => (
          <GivenAt key={field} face={face} path={`${list}[${i}].${field}`} label={field} />
        ))}
      </span>
    ))}
  </Line>
);

const Line = ({ title, children }: { title: string; children: ReactNode }) => (
  <div className="flex gap-2">
    <span className="w-[96px] shrink-0 self-center text-quiet text-note">{title}</span>
    <div className="flex flex-wrap gap-2 items-end">{children}</div>
  </div>
);
