import type { ReactNode } from "react";

import { useDraft } from "./useDraft";

/** What `value` shows follows the hand at once, and goes back if keeping it fails. */
function useKept<Value>(value: Value, onKeep: (value: Value) => Promise<unknown> | void) {
  const [shown, setShown] = useDraft(value);
  function keep(next: Value) {
    setShown(next);
    Promise.resolve(onKeep(next)).catch(() => setShown(value));
  }
  return [shown, keep] as const;
}

type TickProps = {
  checked: boolean;
  onKeep: (checked: boolean) => Promise<unknown> | void;
  className?: string;
  children: ReactNode;
};

/** A box to tick, with its words. */
export function Tick({ checked, onKeep, className = "", children }: TickProps) {
  const [shown, keep] = useKept(checked, onKeep);
  return (
    <label className={`flex items-start gap-2 ${className}`}>
      <input
        type="checkbox"
        className="mt-0.5 size-5 shrink-0 accent-ink"
        checked={shown}
        onChange={(event) => keep(event.target.checked)}
      />
      <span>{children}</span>
    </label>
  );
}

type ChoiceProps<Code extends string> = {
  label: string;
  value: Code;
  options: readonly { code: string; name: string }[];
  onKeep: (value: Code) => Promise<unknown> | void;
  /** On a line of its own below its label, or beside it. */
  below?: boolean;
  children?: ReactNode;
};

/** One of several, by a list that opens. */
export function Choice<Code extends string>({ label, value, options, onKeep, below, children }: ChoiceProps<Code>) {
  const [shown, keep] = useKept(value, onKeep);
  return (
    <label className={below ? "block" : "flex items-center gap-2"}>
      {label}
      <select
        className={below ? "field mt-1" : "rounded border border-soft bg-sheet px-2 py-1"}
        value={shown}
        onChange={(event) => keep(event.target.value as Code)}
      >
        {options.map((one) => (
          <option key={one.code} value={one.code}>
            {one.name}
          </option>
        ))}
      </select>
      {children}
    </label>
  );
}

type ColourProps = { label: string; value: string; onKeep: (value: string) => Promise<unknown> | void };

/** A colour, kept when the hand leaves it. */
export function Colour({ label, value, onKeep }: ColourProps) {
  return (
    <label className="inline-block">
      <span className="block text-[13px] text-soft">{label}</span>
      <input
        key={value}
        type="color"
        className="h-8 w-12"
        defaultValue={value}
        onBlur={({ target }) => {
          if (target.value === value) return;
          Promise.resolve(onKeep(target.value)).catch(() => {
            target.value = value;
          });
        }}
      />
    </label>
  );
}
