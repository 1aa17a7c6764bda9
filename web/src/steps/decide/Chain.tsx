import { useState } from "react";
import { type ChainLink, type ChainPart, chainWords, offered, sooner, toggled } from "./links";
import { sizes } from "../../parts/drawn/shafts";
import { Button } from "../../parts/Button";
import { Outline } from "../../parts/drawn/Outline";

type Props = {
  parts: readonly ChainPart[];
  chain: readonly ChainLink[];
  onChain: (chain: ChainLink[]) => void;
};

const wide = 130;
const axis = 62;

/** What let go first and what that took with it, as a line of parts. */
export function Chain({ parts, chain, onChain }: Props) {
  return (
    <section aria-label="Chain of failure" className="border border-ink mt-3.5">
      <h3 className="px-4 pt-2.5 font-semibold">What failed first, what followed</h3>
      {chain.length > 0 && (
        <div className="overflow-x-auto px-2" tabIndex={0} role="group" aria-label="Chain of failure, drawn">
          <svg
            viewBox={`0 0 ${Math.max(4, chain.length) * wide} 132`}
            className="w-full"
            style={{ minWidth: chain.length * 92 }}
            role="img"
            aria-label={chainWords(chain)}
          >
            {chain.map((l, i) => (
              <Drawn key={l.part ?? l.name} link={l} shape={shapeOf(parts, l)} x={i * wide} first={i === 0} />
            ))}
          </svg>
        </div>
      )}
      <ol>
        {chain.map((l, i) => (
          <Link key={l.part ?? l.name} chain={chain} i={i} link={l} onChain={onChain} />
        ))}
      </ol>
      <Offered parts={parts} chain={chain} onChain={onChain} />
    </section>
  );
}

type LinkProps = Pick<Props, "chain" | "onChain"> & { i: number; link: ChainLink };

/** One part of the chain, how it went, and its place. */
const Link = ({ chain, i, link: l, onChain }: LinkProps) => (
  <li className="flex flex-wrap gap-2 items-center px-4 border-t border-hair">
    <span className="basis-[190px] min-h-11 flex items-center">
      {i + 1}. {l.name}
    </span>
    <input
      aria-label={`${l.name}: how it went`}
      placeholder={i === 0 ? "left out, ran dry, broke" : "how it went"}
      value={l.how ?? ""}
      onChange={(e) => onChain(chain.map((x, k) => (k === i ? { ...x, how: e.target.value } : x)))}
      className="min-h-11 grow basis-[160px] px-3 border border-hair bg-field"
    />
    {i > 0 && (
      <Button look="quiet" onClick={() => onChain(sooner(chain, i))}>
        Move earlier<span className="sr-only">: {l.name}</span>
      </Button>
    )}
    <Button look="quiet" onClick={() => onChain(chain.filter((_, k) => k !== i))}>
      Out<span className="sr-only">: {l.name}</span>
    </Button>
  </li>
);

/** The parts that may have let go, and something no stack has. */
function Offered({ parts, chain, onChain }: Props) {
  const [all, setAll] = useState(false);
  const list = offered(parts, all);
  return (
    <div className="flex flex-wrap gap-2 px-4 py-3 border-t border-hair">
      {list.map((p) => {
        const on = chain.some((l) => l.part === p.part);
        return (
          <button
            key={p.part}
            type="button"
            aria-pressed={on}
            className={`min-h-11 px-3 border ${on ? "border-blue bg-tint" : "border-hair bg-sheet"}`}
            onClick={() => onChain(toggled(chain, p))}
          >
            {p.name}
          </button>
        );
      })}
      {!all && list.length < parts.length && (
        <Button look="quiet" onClick={() => setAll(true)}>
          Show all parts
        </Button>
      )}
      <OwnPart onAdd={(name) => onChain([...chain, { name }])} />
    </div>
  );
}

function OwnPart({ onAdd }: { onAdd: (name: string) => void }) {
  const [own, setOwn] = useState("");
  return (
    <input
      aria-label="Something not in the parts list"
      placeholder="something else, such as the oil or breather"
      value={own}
      onChange={(e) => setOwn(e.target.value)}
      onKeyDown={(e) => {
        if (e.key !== "Enter") return;
        e.preventDefault();
        if (own.trim() === "") return;
        onAdd(own.trim());
        setOwn("");
      }}
      className="min-h-11 grow basis-[200px] px-3 border border-hair bg-field"
    />
  );
}

const shapeOf = (parts: readonly ChainPart[], l: ChainLink) =>
  parts.find((p) => p.part === l.part)?.shape ?? "";

type DrawnProps = { link: ChainLink; shape: string; x: number; first: boolean };

function Drawn({ link: l, shape, x, first }: DrawnProps) {
  const { w, h } = sizes[shape] ?? { w: 24, h: 60 };
  const scale = Math.min(1, 84 / h);
  return (
    <g transform={`translate(${x} 0)`}>
      {!first && (
        <path d={`M-22 ${axis}h36m-8 -5l8 5 -8 5`} fill="none" stroke="var(--out)" strokeWidth="1.8" />
      )}
      <g
        transform={`translate(${wide / 2 - (w * scale) / 2} ${axis * (1 - scale)}) scale(${scale})`}
        className={first ? "stroke-out fill-paper" : "stroke-ink fill-paper"}
        strokeWidth={first ? 2.2 : 1.4}
      >
        {shape === "" ? (
          <circle cx={w / 2} cy={axis} r="20" />
        ) : (
          <Outline shape={shape} w={w} h={h} axis={axis} />
        )}
      </g>
      <text x={wide / 2} y="122" textAnchor="middle" fontSize="13" fill="var(--ink)">
        {l.name.length > 19 ? `${l.name.slice(0, 18)}…` : l.name}
      </text>
    </g>
  );
}
