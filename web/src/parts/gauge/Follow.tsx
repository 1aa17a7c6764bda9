import { useState } from "react";
import { type Circle, type Following, useFollowing } from "../../data/gauge";
import type { Instrument } from "../../model/types";
import { Button } from "../Button";
import { useKey } from "../keys";
import { Pedal } from "./Pedal";
import { typeReading } from "./typed";

export type FollowProps = {
  gauges: Instrument[];
  /** What a whole turn of readings is good for here. */
  onCircle?: ((circle: Circle) => void) | undefined;
};

/** How a gauge's line stands, as one says it. */
const stands = {
  calling: "being called",
  alive: "alive",
  silent: "silent",
  lost: "lost",
} as const;

/** Which gauge was followed last at this screen. */
const place = "handwerk.gauge";

/** A gauge that speaks, followed: what it reads now, and the ways to take it. */
export default function Follow({ gauges, onCircle }: FollowProps) {
  const [id, setId] = useState(
    () => (gauges.find((g) => g.id === localStorage.getItem(place)) ?? gauges[0])?.id ?? "",
  );
  const pick = (gauge: string) => {
    localStorage.setItem(place, gauge);
    setId(gauge);
  };
  const [settles, takeSettled] = useState(false);
  const [circle, setCircle] = useState<Circle | undefined>();
  const [rested, rest] = useState("");
  const following = useFollowing(id, {
    onCircle: (c) => onCircle && setCircle(c),
    onSettled: (text) => {
      rest(text);
      if (settles) typeReading(text, true);
    },
  });
  const [nowhere, setNowhere] = useState(false);
  const take = () => following.now && setNowhere(!typeReading(following.now));
  useKey("take", "take the reading of the gauge", take, following.now !== "");
  return (
    <section aria-label="Gauge" className="border border-ink mt-3.5">
      <div className="flex flex-wrap items-stretch">
        <Live following={following} rested={rested} gauges={gauges} id={id} onPick={pick} />
        <Button
          look="go"
          hint="L"
          name="take"
          disabled={following.now === ""}
          onClick={take}
          className="min-w-32"
        >
          Take
        </Button>
      </div>
      <div className="flex flex-wrap gap-x-5 items-center px-3.5 border-t border-hair text-note">
        <AtRest on={settles} onTurn={takeSettled} />
        <Pedal onPress={take} />
        {nowhere && <span role="status">Nothing here asks for a reading.</span>}
        {circle && onCircle && (
          <Button
            name="circle"
            onClick={() => {
              setCircle(undefined); // once: the next turn is another
              onCircle(circle);
            }}
          >
            Use this turn
          </Button>
        )}
      </div>
    </section>
  );
}

const AtRest = ({ on, onTurn }: { on: boolean; onTurn: (on: boolean) => void }) => (
  <label className="min-h-11 flex items-center gap-2">
    <input type="checkbox" className="size-5" checked={on} onChange={(e) => onTurn(e.target.checked)} />
    Take once it is at rest
  </label>
);

type LiveProps = {
  following: Following;
  rested: string;
  gauges: Instrument[];
  id: string;
  onPick: (id: string) => void;
};

/** The gauge as it stands, its reading large, and the last seconds of it as a line. */
function Live({ following, rested, gauges, id, onPick }: LiveProps) {
  const { state, says, now, trace } = following;
  return (
    <div className="grow flex flex-wrap items-center gap-x-4 px-3.5 py-2 min-h-14">
      <span className="grow basis-[180px] text-note">
        <Which gauges={gauges} id={id} onPick={onPick} />
        <span role={state === "lost" ? "alert" : "status"} className={`block ${tone[state]}`}>
          {stands[state]}
          {says && `: ${says}`}
          {!says && rested && `, last at rest at ${rested}`}
        </span>
      </span>
      <Trace values={trace} />
      <output aria-label="Reads now" className="font-mono font-medium text-title min-w-[8ch] text-right">
        {now || "–"}
      </output>
    </div>
  );
}

const tone = { calling: "text-quiet", alive: "text-in", silent: "text-undecided", lost: "text-out" } as const;

const Which = ({ gauges, id, onPick }: Pick<LiveProps, "gauges" | "id" | "onPick">) =>
  gauges.length === 1 ? (
    <b className="font-semibold">{gauges[0]?.name}</b>
  ) : (
    <select
      aria-label="Gauge to follow"
      value={id}
      onChange={(e) => onPick(e.target.value)}
      className="min-h-11 max-w-full border border-hair bg-sheet text-ink px-2"
    >
      {gauges.map((g) => (
        <option key={g.id} value={g.id}>
          {g.name}
        </option>
      ))}
    </select>
  );

const size = { width: 140, height: 34 };

/** The last readings, from left to right, as high as they vary. */
function Trace({ values }: { values: readonly number[] }) {
  if (values.length < 2) return null;
  const low = Math.min(...values);
  const range = Math.max(...values) - low || 1;
  const at = (v: number, i: number) =>
    `${(i / (values.length - 1)) * size.width},${size.height - 3 - ((v - low) / range) * (size.height - 6)}`;
  return (
    <svg {...size} aria-hidden className="stroke-blue fill-none" strokeWidth="1.5">
      <polyline points={values.map(at).join(" ")} />
    </svg>
  );
}
