import { Colour } from "@/shared/ui";
import { useCard } from "./card";
import { setAt, type Path } from "./spec";

/** A colour of the spec. */
export function ColourField({ label, at, value }: { label: string; at: Path; value: string }) {
  const { change } = useCard();
  return <Colour label={label} value={value} onKeep={(colour) => change((now) => setAt(now, at, colour))} />;
}
