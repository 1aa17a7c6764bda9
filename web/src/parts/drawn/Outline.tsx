import type { ReactNode } from "react";

type Size = { w: number; h: number; axis: number };
type Drawn = (s: Size & { top: number }) => ReactNode;

const bore = 15;

/** Section of a part above and below the axis; simple, but told apart at a glance. */
export function Outline({ shape, ...size }: Size & { shape: string }) {
  return (sections[shape] ?? plain)({ ...size, top: size.axis - size.h / 2 });
}

/** What is cut above the axis and below it, from the bore outward. */
const Halves = ({ w, h, axis, top, from = 0 }: Size & { top: number; from?: number }) => (
  <>
    <rect x="0" y={top + from} width={w} height={Math.max(8, h / 2 - bore - from)} />
    <rect x="0" y={axis + bore} width={w} height={Math.max(8, h / 2 - bore - from)} />
  </>
);

const plain: Drawn = (s) => <Halves {...s} />;

const sections: Record<string, Drawn> = {
  shaft: ({ w, axis }) => <path d={`M0 ${axis - 11}h14v-4h${w - 34}v4h20v22h-20v4h-${w - 34}v-4h-14z`} />,
  gear: (s) => (
    <>
      <Halves {...s} />
      {Array.from({ length: 5 }, (_, i) => (
        <path key={i} d={`M${4 + i * 9} ${s.top}v12M${4 + i * 9} ${s.top + s.h}v-12`} />
      ))}
    </>
  ),
  bearing: (s) => (
    <>
      <Halves {...s} />
      <circle cx={s.w / 2} cy={s.top + (s.h / 2 - bore) / 2} r="9" />
      <circle cx={s.w / 2} cy={s.top + s.h - (s.h / 2 - bore) / 2} r="9" />
    </>
  ),
  rollers: ({ w, h, top }) => (
    <>
      <rect x="0" y={top} width={w} height={12} />
      <rect x="0" y={top + h - 12} width={w} height={12} />
      <path d={`M0 ${top + 6}h${w}M0 ${top + h - 6}h${w}`} />
    </>
  ),
  seal: ({ w, h, top }) => (
    <path
      d={`M0 ${top}h${w}v10h-${w - 5}v${h / 2 - bore - 14}l6 5h-11zM0 ${top + h}h${w}v-10h-${w - 5}v-${h / 2 - bore - 14}l6 -5h-11z`}
    />
  ),
  fork: ({ w, h, top }) => (
    <path d={`M4 ${top}h${w - 8}v26h5v${h - 52}h-5v26h-${w - 8}v-26h6v-${h - 52}h-6z`} />
  ),
  sleeve: (s) => (
    <>
      <Halves {...s} />
      <path d={`M${s.w} ${s.axis - bore - 8}l7 4v4h-7M${s.w} ${s.axis + bore + 8}l7 -4v-4h-7`} />
    </>
  ),
  flange: ({ w, h, top }) => <path d={`M0 ${top}h9v${h / 2 - 30}h${w - 9}v60h-${w - 9}v${h / 2 - 30}h-9z`} />,
  spring: ({ w, h, top }) => (
    <path
      d={`M0 ${top}l${w} ${h / 2 - bore}h-5L0 ${top + 6}zM0 ${top + h}l${w} -${h / 2 - bore}h-5L0 ${top + h - 6}z`}
    />
  ),
  flywheel: (s) => (
    <>
      <Halves {...s} from={8} />
      <path d={`M6 ${s.top}h${s.w - 12}v8h-${s.w - 12}zM6 ${s.top + s.h}h${s.w - 12}v-8h-${s.w - 12}z`} />
    </>
  ),
  nut: ({ w, h, top }) => <path d={`M0 ${top}h${w - 6}l6 7v${h - 14}l-6 7h-${w - 6}z`} />,
};
