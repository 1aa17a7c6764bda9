type Props = { out: { method: string; source: readonly string[] } };

/** The calculator with its version, and what its answer rests on. */
export const Method = ({ out }: Props) => (
  <p className="text-quiet text-small">
    {out.method}: {out.source.join("; ")}
  </p>
);
