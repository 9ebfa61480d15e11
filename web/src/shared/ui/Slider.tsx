import { useAtRest } from "./useAtRest";
import { useDraft } from "./useDraft";

type SliderProps = {
  label: string;
  unit: string;
  min: number;
  max: number;
  step?: number;
  value: number;
  onKeep: (value: number) => void;
};

/** A labelled slider that is kept when the hand leaves it, or once its keys rest. */
export function Slider({ label, unit, min, max, step = 1, value, onKeep }: SliderProps) {
  const [shown, setShown] = useDraft(value);
  const { later, now } = useAtRest((next: number) => {
    if (next !== value) onKeep(next);
  });
  return (
    <label className="grid grid-cols-[8rem_1fr_3.2rem] items-center gap-3">
      {label}
      <input
        type="range"
        className="h-7 accent-ink"
        min={min}
        max={max}
        step={step}
        value={shown}
        onChange={(event) => {
          setShown(Number(event.target.value));
          later(Number(event.target.value));
        }}
        onPointerUp={now}
        onBlur={now}
      />
      <span className="text-right">
        {shown}
        {unit}
      </span>
    </label>
  );
}
