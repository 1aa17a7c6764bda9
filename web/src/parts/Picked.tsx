type Props = {
  label: string;
  value: string;
  onValue: (value: string) => void;
  /** Ids, each with what it is called where that is not itself. */
  of: readonly (string | { id: string; text: string })[];
};

/** One of many: more than stand side by side as answers. */
export const Picked = ({ label, value, onValue, of }: Props) => (
  <label className="block">
    <span className="block text-small text-quiet">{label}</span>
    <select
      value={value}
      onChange={(e) => onValue(e.target.value)}
      className="w-full min-h-11 px-3 border border-ink bg-field text-line"
    >
      {[...new Map(of.map((o) => (typeof o === "string" ? [o, o] : [o.id, o.text])))].map(([id, text]) => (
        <option key={id} value={id}>
          {text}
        </option>
      ))}
    </select>
  </label>
);
