import { useCard } from "./card";
import { PartChoice } from "./PartChoice";
import { setAt, type Path } from "./spec";

/** Which of the sheets at hand something is cut from. */
export function StockChoice({ at, value, none }: { at: Path; value: string; none?: string }) {
  const { spec, change } = useCard();
  const first = spec.stock[0]?.name;
  const options = [
    { code: "", name: none ?? (first ? `${first} (the first)` : "none named") },
    ...spec.stock.map((one) => ({ code: one.name, name: one.name })),
  ];
  return (
    <PartChoice
      label="Paper"
      value={value}
      options={options}
      onKeep={(next) => change((now) => setAt(now, at, next))}
    />
  );
}
