import { useDraft } from "@/shared/ui";

type Props = {
  label: string;
  value: string;
  maxLength: number;
  lines?: number;
  className?: string;
  onKeep: (text: string) => Promise<unknown>;
};

/** Words of the card, kept on Enter or on going elsewhere. */
export function TextField({ label, value, maxLength, lines = 1, className = "w-56", onKeep }: Props) {
  const [text, setText] = useDraft(value);
  const shared = {
    className: `field ${className}`,
    value: text,
    maxLength,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
    onBlur: () => {
      if (text.trim() !== value) onKeep(text.trim()).catch(() => setText(value));
    },
  };
  return (
    <label className="inline-block">
      <span className="block text-[13px] text-soft">{label}</span>
      {lines > 1 ? (
        <textarea rows={lines} {...shared} />
      ) : (
        <input
          type="text"
          {...shared}
          onKeyDown={(event) => {
            if (event.key === "Enter") event.currentTarget.blur();
            if (event.key === "Escape") setText(value);
          }}
        />
      )}
    </label>
  );
}
