/**
 * How a gear felt, told apart without colour: home in its gate, dragging, over teeth, against a wall,
 * thrown back.
 */
export function Feel({ id, size }: { id: string; size: number }) {
  return (
    <svg width={size} height={size} viewBox="-12 -12 24 24" aria-hidden="true" fill="none" strokeWidth={2.4}>
      {marks[id]}
    </svg>
  );
}

const marks: Record<string, React.ReactNode> = {
  in: <path d="M0 -10V6M-6 0 0 7 6 0" stroke="var(--in)" />,
  stiff: <path d="M0 -10V6M-6 0 0 7 6 0M-9 -6H9" stroke="var(--undecided)" />,
  crunches: <path d="M-10 4 -6 -4 -2 4 2 -4 6 4 10 -4" stroke="var(--out)" />,
  refuses: <path d="M0 -10V1M-10 5H10M-10 9H10" stroke="var(--out)" />,
  jumps_out: <path d="M-6 10C-6 -6 6 -6 6 6M1 1 6 7 11 1" transform="rotate(180)" stroke="var(--out)" />,
};
