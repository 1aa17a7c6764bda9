import { millimetres } from "../../model/drawn";
import type { DrawnProps } from "./index";

const wide = 300;
const high = 110;

/** A disc spring in section, as its four sizes make it; nothing while they do not. */
export function SpringDrawn({ typed }: DrawnProps) {
  const [de, di, t, h0] = ["de", "di", "t", "h0"].map((name) => millimetres(typed[`0.${name}`]));
  if (!de || !di || !t || !h0 || di >= de) return null;
  const scale = Math.min((wide - 60) / de, (high - 30) / (t + h0));
  const x = (r: number) => wide / 2 + r * scale;
  const floor = high - 14;
  const side = (sign: 1 | -1) => {
    const [inner, outer] = [x((sign * di) / 2), x((sign * de) / 2)];
    const [up, thick] = [h0 * scale, t * scale];
    return `M${outer} ${floor}L${inner} ${floor - up}V${floor - up - thick}L${outer} ${floor - thick}Z`;
  };
  return (
    <svg
      viewBox={`0 0 ${wide} ${high}`}
      className="w-[300px] border border-hair"
      role="img"
      aria-label={`Disc spring ${de} by ${di} by ${t} mm, cone ${h0} mm`}
    >
      <path d={side(1) + side(-1)} fill="var(--tint)" stroke="var(--ink)" strokeWidth={1.4} />
      <path d={`M${wide / 2} 4V${high - 4}`} stroke="var(--hair)" strokeDasharray="9 3 2 3" />
      <path d={`M${x(-de / 2)} ${floor}H${x(de / 2)}`} stroke="var(--quiet)" />
    </svg>
  );
}
