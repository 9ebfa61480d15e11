import { useRef } from "react";

import { useDraft } from "@/shared/ui";

type Props = {
  label: string;
  value: string;
  onKeep: (value: string) => void;
  maxLength: number;
  required?: boolean;
  lines?: number;
  hideLabel?: boolean;
  autoFocus?: boolean;
};

/** A text that is kept when the hand leaves it: on Enter or on going elsewhere. Escape takes the typing back. */
export function KeptField({
  label,
  value,
  onKeep,
  maxLength,
  required = false,
  lines = 1,
  hideLabel = false,
  autoFocus = false,
}: Props) {
  const [text, setText] = useDraft(value);
  const field = useRef<HTMLInputElement & HTMLTextAreaElement>(null);
  function keep() {
    const tidy = text.trim();
    if (required && !tidy) setText(value);
    else if (tidy !== value) onKeep(tidy);
  }
  const shared = {
    ref: field,
    value: text,
    maxLength,
    autoFocus,
    className: `field ${hideLabel ? "" : "mt-1"}`,
    onBlur: keep,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key === "Enter" && lines === 1) field.current?.blur();
      if (event.key === "Escape") setText(value);
    },
  };
  return (
    <label className="block">
      <span className={hideLabel ? "sr-only" : ""}>{label}</span>
      {lines > 1 ? <textarea rows={lines} {...shared} /> : <input type="text" {...shared} />}
    </label>
  );
}
