import { Button } from "./Button";
import { useUnit } from "./unit";

const NAMES = { in: "inches", cm: "centimetres" } as const;

/** The other unit, everywhere. */
export function UnitSwitch() {
  const { unit, choose } = useUnit();
  const other = unit === "in" ? "cm" : "in";
  return (
    <Button kind="quiet" onClick={() => choose(other)}>
      Show in {NAMES[other]}
    </Button>
  );
}
