import { useId, useState } from "react";

import type { Length } from "@/shared/api";
import { useDraft, useUnit } from "@/shared/ui";
import { useCard } from "./card";
import { setAt, sizesOf, withUnit, type Path } from "./spec";

type Props = {
  label: string;
  at: Path;
  hideLabel?: boolean;
  className?: string;
  /** In millimetres whatever the unit: foam is sold so. */
  metric?: boolean;
  /** What it comes to while nothing is set. */
  otherwise?: Length;
};

/** A length of the spec, written as people write lengths. Kept on Enter or on going elsewhere; Escape takes it back. */
export function LengthField({ label, at, hideLabel = false, className = "w-24", metric = false, otherwise }: Props) {
  const { laid, changeQuietly } = useCard();
  const chosen = useUnit().unit;
  const unit = metric ? "mm" : chosen;
  const known = sizesOf(laid).get(at) ?? otherwise;
  const shown = known ? known[unit === "in" ? "inches" : unit] : "";
  const about = shown.startsWith("≈");
  const plain = shown.replace("≈ ", "");
  const [text, setText] = useDraft(plain);
  const [fault, setFault] = useState("");
  const problem = useId();

  function keep() {
    const tidy = text.trim();
    if (tidy === plain || !tidy) {
      setText(plain);
      setFault("");
      return;
    }
    const written = withUnit(tidy, unit);
    changeQuietly((spec) => setAt(spec, at, written)).then(
      () => setFault(""),
      (error: Error) => setFault(error.message),
    );
  }

  return (
    <label className="inline-block align-top">
      <span className={hideLabel ? "sr-only" : "block text-[13px] text-soft"}>{label}</span>
      <span className="flex items-center gap-1">
        {about && (
          <span title="Kept exactly; this is the nearest that is shown" aria-hidden>
            ≈
          </span>
        )}
        <input
          type="text"
          className={`field ${className}`}
          value={text}
          maxLength={40}
          aria-invalid={fault ? true : undefined}
          aria-describedby={fault ? problem : undefined}
          onChange={(event) => setText(event.target.value)}
          onBlur={keep}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
            if (event.key === "Escape") {
              setText(plain);
              setFault("");
            }
          }}
        />
        <span className="text-[13px] text-soft" aria-hidden>
          {unit}
        </span>
      </span>
      {fault && (
        <span id={problem} role="alert" className="mt-0.5 block max-w-64 text-[13px] font-bold">
          {fault}
        </span>
      )}
    </label>
  );
}
