import type { ReactNode } from "react";
import type { PackDrawn } from "./packs";

type Props = {
  left: PackDrawn | undefined;
  right: PackDrawn | undefined;
  pinion?: PackDrawn | undefined;
  /** The side on which the ring sits. */
  ring: "left" | "right";
  /** Which way the ring should go; 0 stays. */
  move: -1 | 0 | 1;
  /** What the picture says to who cannot see it. */
  label: string;
  children?: ReactNode;
};

/** How much thicker than they are packs are drawn, beside the rest. */
export const thicker = 6;

/**
 * An axle cut open, seen from above, front at the left: pinion, carrier, ring and the side
 * packs. What is, is ink; what is proposed, dashed and blue. The left of the vehicle is below.
 */
export function AxleCut({ left, right, pinion, ring, move, label, children }: Props) {
  const down = ring === "left";
  return (
    <svg viewBox="0 0 640 300" className="w-full" role="img" aria-label={label}>
      <defs>
        <pattern
          id="axle-cut"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line y2="7" className="stroke-hair" strokeWidth="1.6" />
        </pattern>
      </defs>
      <path
        d="M20 112H118L160 72V28H372V272H160V228L118 188H20V176H112L172 226V260H360V40H172V80L112 124H20Z"
        fill="url(#axle-cut)"
        className="stroke-ink"
        strokeWidth="1.3"
      />
      <path d="M8 150H385" className="stroke-quiet" strokeWidth="0.8" strokeDasharray="16 3 3 3" />
      <Pinion />
      <Carrier down={down} />
      {move !== 0 && <Move down={down} toPinion={move < 0} />}
      {right && <Packs pack={right} at={66} name="right pack" />}
      {left && <Packs pack={left} at={234} name="left pack" />}
      {pinion && <Shim pack={pinion} />}
      <text x="20" y="20" fontSize="11" className="fill-quiet!">
        from above, front at the left;
      </text>
      <text x="20" y="34" fontSize="11" className="fill-quiet!">
        packs drawn {thicker} times too thick
      </text>
      {children}
    </svg>
  );
}

/** The pinion on its two bearings, its head to the ring. */
const Pinion = () => (
  <g className="fill-sheet stroke-ink" strokeWidth="1.3">
    <path d="M8 134H22V166H8ZM22 142H152V158H22Z" />
    {[42, 126].map((x) => (
      <path key={x} d={`M${x} 126h22v48h-22zM${x} 126l22 48M${x + 22} 126l-22 48`} />
    ))}
    <path d="M152 134L206 120V180L152 166Z" />
    {[0, 1, 2, 3].map((i) => (
      <path key={i} d={`M${162 + 11 * i} ${132 - 2.6 * i}l6 ${38 + 5 * i}`} strokeWidth="0.8" />
    ))}
  </g>
);

/** Carrier, ring and shafts: the ring below when it sits on the left. */
const Carrier = ({ down }: { down: boolean }) => (
  <g
    transform={down ? undefined : "translate(0 300) scale(1 -1)"}
    className="fill-sheet stroke-ink"
    strokeWidth="1.3"
  >
    <path d="M258 6H274V294H258Z" />
    <path d="M248 84H284V104H248ZM248 84L284 104M284 84L248 104M248 196H284V216H248ZM248 196L284 216M284 196L248 216" />
    <path d="M228 104H304V178H228Z" />
    <circle cx="266" cy="140" r="22" />
    <path d="M250 124L282 156M282 124L250 156" />
    <path d="M196 178H336V194H196Z" />
    <path d="M196 178L214 164H232V178ZM300 178V164H318L336 178Z" />
  </g>
);

/** Which way the ring goes. */
function Move({ down, toPinion }: { down: boolean; toPinion: boolean }) {
  const up = down === toPinion;
  return (
    <g className="stroke-blue fill-blue" strokeWidth="2">
      <path d="M346 164V190" strokeDasharray="5 3" />
      <path d={up ? "M346 156l-5 10h10z" : "M346 198l-5 -10h10z"} strokeWidth="0" />
    </g>
  );
}

/** A pack's thickness in the picture, however odd it is. */
const size = (mm: number) => Math.min(34, Math.max(2, mm * thicker));

type PackProps = { pack: PackDrawn; at: number; name: string };

/** A side pack as stripes, and what it should become dashed round it. */
function Packs({ pack, at, name }: PackProps) {
  const h = size(pack.is);
  const then = pack.becomes === undefined ? undefined : size(pack.becomes);
  return (
    <g>
      <rect x="246" y={at - h / 2} width="40" height={h} className="fill-hair stroke-ink" strokeWidth="1.2" />
      {then !== undefined && (
        <rect
          x="241"
          y={at - then / 2}
          width="50"
          height={then}
          className="fill-tint stroke-blue"
          fillOpacity="0.4"
          strokeWidth="1.4"
          strokeDasharray="5 3"
        />
      )}
      <path d={`M291 ${at}H380`} className="stroke-hair" strokeWidth="1" />
      <text x="384" y={at - 12} fontSize="12" className="fill-quiet!">
        {name}
      </text>
      <text x="384" y={at + 4} fontSize="13" className="font-mono">
        {pack.says}
      </text>
      {pack.becomesSays && (
        <text x="384" y={at + 20} fontSize="13" className="font-mono fill-blue! font-semibold">
          to {pack.becomesSays}
        </text>
      )}
    </g>
  );
}

/** The shim behind the pinion's head. */
const Shim = ({ pack }: { pack: PackDrawn }) => (
  <g>
    <rect
      x={151 - Math.max(3, pack.is * thicker)}
      y="124"
      width={Math.max(3, pack.is * thicker)}
      height="52"
      className={pack.becomes === undefined ? "fill-hair stroke-ink" : "fill-tint stroke-blue"}
      strokeWidth="1.2"
    />
    <text x="30" y="210" fontSize="12" className="fill-quiet!">
      pinion shim
    </text>
    <text x="30" y="225" fontSize="13" className="font-mono">
      {pack.says}
    </text>
    {pack.becomesSays && (
      <text x="30" y="240" fontSize="13" className="font-mono fill-blue! font-semibold">
        to {pack.becomesSays}
      </text>
    )}
  </g>
);
