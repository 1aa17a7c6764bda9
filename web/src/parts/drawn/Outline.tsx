/** Section of a part above and below the axis; simple, but told apart at a glance. */
export function Outline({ shape, w, h, axis }: { shape: string; w: number; h: number; axis: number }) {
  const top = axis - h / 2;
  const half = (y: number, hh: number, key: string) => <rect key={key} x="0" y={y} width={w} height={hh} />;
  const bore = 15;
  switch (shape) {
    case "shaft":
      return <path d={`M0 ${axis - 11}h14v-4h${w - 34}v4h20v22h-20v4h-${w - 34}v-4h-14z`} />;
    case "gear":
      return (
        <>
          {half(top, h / 2 - bore, "a")}
          {half(axis + bore, h / 2 - bore, "b")}
          {Array.from({ length: 5 }, (_, i) => (
            <path key={i} d={`M${4 + i * 9} ${top}v12M${4 + i * 9} ${top + h}v-12`} />
          ))}
        </>
      );
    case "bearing":
      return (
        <>
          {half(top, h / 2 - bore, "a")}
          {half(axis + bore, h / 2 - bore, "b")}
          <circle cx={w / 2} cy={top + (h / 2 - bore) / 2} r="9" />
          <circle cx={w / 2} cy={top + h - (h / 2 - bore) / 2} r="9" />
        </>
      );
    case "rollers":
      return (
        <>
          {half(top, 12, "a")}
          {half(top + h - 12, 12, "b")}
          <path d={`M0 ${top + 6}h${w}M0 ${top + h - 6}h${w}`} />
        </>
      );
    case "seal":
      return (
        <path
          d={`M0 ${top}h${w}v10h-${w - 5}v${h / 2 - bore - 14}l6 5h-11zM0 ${top + h}h${w}v-10h-${w - 5}v-${h / 2 - bore - 14}l6 -5h-11z`}
        />
      );
    case "fork":
      return <path d={`M4 ${top}h${w - 8}v26h5v${h - 52}h-5v26h-${w - 8}v-26h6v-${h - 52}h-6z`} />;
    case "sleeve":
      return (
        <>
          {half(top, h / 2 - bore, "a")}
          {half(axis + bore, h / 2 - bore, "b")}
          <path d={`M${w} ${axis - bore - 8}l7 4v4h-7M${w} ${axis + bore + 8}l7 -4v-4h-7`} />
        </>
      );
    case "flange":
      return <path d={`M0 ${top}h9v${h / 2 - 30}h${w - 9}v60h-${w - 9}v${h / 2 - 30}h-9z`} />;
    case "spring":
      return (
        <path
          d={`M0 ${top}l${w} ${h / 2 - bore}h-5L0 ${top + 6}zM0 ${top + h}l${w} -${h / 2 - bore}h-5L0 ${top + h - 6}z`}
        />
      );
    case "flywheel":
      return (
        <>
          {half(top + 8, h / 2 - bore - 8, "a")}
          {half(axis + bore, h / 2 - bore - 8, "b")}
          <path d={`M6 ${top}h${w - 12}v8h-${w - 12}zM6 ${top + h}h${w - 12}v-8h-${w - 12}z`} />
        </>
      );
    case "nut":
      return <path d={`M0 ${top}h${w - 6}l6 7v${h - 14}l-6 7h-${w - 6}z`} />;
    default:
      return (
        <>
          {half(top, Math.max(8, h / 2 - bore), "a")}
          {half(axis + bore, Math.max(8, h / 2 - bore), "b")}
        </>
      );
  }
}
