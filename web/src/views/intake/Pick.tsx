import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from "@headlessui/react";
import { type ReactNode, useId } from "react";
import { keyOf, type Offer } from "../../model/offers";
import { pickable, underKeys } from "../../parts/look";

type Props = {
  label: string;
  placeholder: string;
  typed: string;
  onType: (text: string) => void;
  offers: readonly Offer[];
  onPick: (offer: Offer) => void;
  autoFocus?: boolean;
};

/** One line to look something up by any part of it; what is new is the last thing offered. */
export function Pick({ label, placeholder, typed, onType, offers, onPick, autoFocus = false }: Props) {
  const id = useId();
  return (
    <Combobox<Offer | null>
      value={null}
      by={(a, b) => a !== null && b !== null && keyOf(a) === keyOf(b)}
      onChange={(picked) => picked !== null && onPick(picked)}
      immediate
    >
      <div className="relative">
        <label htmlFor={id} className="sr-only">
          {label}
        </label>
        <ComboboxInput
          id={id}
          autoFocus={autoFocus}
          autoComplete="off"
          placeholder={placeholder}
          displayValue={() => typed}
          onChange={(e) => onType(e.target.value)}
          className="w-full min-h-12 px-3 text-line border border-ink bg-field"
        />
        <ComboboxOptions
          modal={false}
          className="absolute z-10 inset-x-0 top-full border-x border-b border-ink bg-sheet max-h-80 overflow-y-auto empty:hidden"
        >
          {offers.map((o) => (
            <ComboboxOption
              key={keyOf(o)}
              value={o}
              className={`flex flex-wrap gap-x-4 items-center px-4 py-2 ${pickable} ${underKeys}`}
            >
              <b className="font-semibold text-line">{o.title}</b>
              {o.more && <span className="text-quiet">{o.more}</span>}
              {o.right && <span className="text-quiet ml-auto">{o.right}</span>}
            </ComboboxOption>
          ))}
        </ComboboxOptions>
      </div>
    </Combobox>
  );
}

/** A line of the page: what it is about at the left, the work at the right. */
export function Line({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section
      aria-label={title}
      className="grid grid-cols-[168px_minmax(0,1fr)] max-[820px]:grid-cols-1 gap-y-2 border-t border-ink py-3.5"
    >
      <h3 className="text-line font-semibold pt-1">{title}</h3>
      <div className="min-w-0">{children}</div>
    </section>
  );
}

/** What was found or added, with the way back to another. */
export function Picked({
  children,
  name,
  onOther,
}: {
  children: ReactNode;
  name: string;
  onOther: () => void;
}) {
  return (
    <p className="flex flex-wrap items-center gap-x-3 text-line min-h-11">
      {children}
      <button type="button" className="ml-auto min-h-11 px-3 text-quiet underline" onClick={onOther}>
        Change<span className="sr-only"> {name}</span>
      </button>
    </p>
  );
}
