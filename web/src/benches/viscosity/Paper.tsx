import { asQuantity, inUnit } from "../../model/quantity";
import type { Quantity, Units } from "../../model/types";
import type { Out } from ".";

const box = { left: 78, right: 880, top: 20, bottom: 400 };
const cold = -40;
const hot = 150;
const thin = 2.5;
const thick = 100_000;

/** The paper of ASTM D341: an oil is a straight line on it. */
const across = (celsius: number) => Math.log10(celsius + 273.15);
const up = (v: number) => Math.log10(Math.log10(v + 0.7));

const x = (celsius: number) =>
  box.left + ((box.right - box.left) * (across(celsius) - across(cold))) / (across(hot) - across(cold));
const yOf = (w: number) => box.bottom - ((box.bottom - box.top) * (w - up(thin))) / (up(thick) - up(thin));
const y = (v: number) => yOf(up(v));

const degrees = [-40, -20, 0, 20, 40, 60, 80, 100, 120, 150];
const grid = [3, 5, 10, 20, 50, 100, 500, 2000, 10_000, 100_000];
const dashes = [undefined, "9 4", "3 4", "12 4 3 4", "2 2", "6 2", "1 3"];

type Props = { out: Out | undefined; at: readonly unknown[]; units: Units };

/** Viscosity over temperature, a line an oil, a vertical for each temperature asked. */
export function Paper({ out, at, units }: Props) {
  const asked = at.flatMap((t) => {
    const q = asQuantity(t);
    return q ? [{ q, celsius: inUnit(q, "°C", units) }] : [];
  });
  const oils = out ? [{ name: "this oil", ...out }, ...(out.others ?? [])] : [];
  return (
    <svg
      viewBox="0 0 900 440"
      className="w-full"
      role="img"
      aria-label={`Viscosity over temperature. ${out ? `At 100 °C ${out.at_100_mm2_s.toFixed(1)} mm²/s` : ""}`}
    >
      <Grid />
      <clipPath id="paper">
        <rect x={box.left} y={box.top} width={box.right - box.left} height={box.bottom - box.top} />
      </clipPath>
      {asked.map(({ q, celsius }) => (
        <Vertical key={`${q.value}${q.unit}`} q={q} celsius={celsius} />
      ))}
      {oils.map((oil, i) => (
        <Oil key={oil.name} oil={oil} i={i} units={units} />
      ))}
    </svg>
  );
}

/** Three figures, as a data sheet gives it. */
export const thickness = ({ viscosity: { value } }: Out["values"][number]) =>
  value < 100 ? value.toPrecision(3) : value.toFixed(0);

const Grid = () => (
  <g fontSize="12">
    {degrees.map((t) => (
      <g key={t}>
        <path d={`M${x(t)} ${box.top}V${box.bottom}`} className="stroke-hair" />
        <text x={x(t)} y={box.bottom + 17} textAnchor="middle" className="fill-quiet!">
          {t}
        </text>
      </g>
    ))}
    {grid.map((v) => (
      <g key={v}>
        <path d={`M${box.left} ${y(v)}H${box.right}`} className="stroke-hair" />
        <text x={box.left - 8} y={y(v) + 4} textAnchor="end" className="fill-quiet!">
          {v}
        </text>
      </g>
    ))}
    <path
      d={`M${box.left} ${box.top}V${box.bottom}H${box.right}`}
      className="stroke-ink fill-none"
      strokeWidth="1.2"
    />
    <text x={box.left} y={box.top - 7} className="fill-quiet!">
      mm²/s
    </text>
    <text x={box.right} y={box.bottom + 34} textAnchor="end" className="fill-quiet!">
      temperature, °C
    </text>
  </g>
);

const Vertical = ({ q, celsius }: { q: Quantity; celsius: number }) => (
  <g>
    <path
      d={`M${x(celsius)} ${box.top}V${box.bottom}`}
      className="stroke-blue"
      strokeDasharray="6 4"
      strokeWidth="1.2"
    />
    <text x={x(celsius) + 5} y={box.bottom - 8} fontSize="12" className="fill-blue!">
      {q.value} {q.unit}
    </text>
  </g>
);

type OilProps = { oil: { name: string } & Pick<Out, "a" | "b" | "values">; i: number; units: Units };

/** An oil's line with its figures at the temperatures asked; the oils are told apart by their dashes. */
function Oil({ oil, i, units }: OilProps) {
  const at = (celsius: number) => yOf(oil.a - oil.b * across(celsius));
  return (
    <g clipPath="url(#paper)">
      <path
        d={`M${x(cold)} ${at(cold)}L${x(hot)} ${at(hot)}`}
        className={i === 0 ? "stroke-ink" : "stroke-quiet"}
        strokeWidth={i === 0 ? 2.4 : 1.8}
        strokeDasharray={dashes[i]}
      />
      <text x={x(112)} y={at(112) - 14} fontSize="13">
        {oil.name}
      </text>
      {oil.values.map((v) => (
        <g key={`${v.at.value}${v.at.unit}`}>
          <circle cx={x(inUnit(v.at, "°C", units))} cy={y(v.viscosity.value)} r="4" className="fill-ink" />
          <text
            x={x(inUnit(v.at, "°C", units)) + 8}
            y={y(v.viscosity.value) - 6}
            fontSize="13"
            className="font-mono"
          >
            {thickness(v)}
          </text>
        </g>
      ))}
    </g>
  );
}
