import { useState } from "react";

import { thingsOf } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useCard } from "./card";
import { LengthField } from "./LengthField";
import { Part } from "./Part";

/** Things cut out along their outline and set up on foam above where they are. */
export function CutOutsForm() {
  const { piece, spec, change } = useCard();
  const taken = new Set(spec.cutouts.flatMap((one) => one.regions));
  const free = thingsOf(piece.regions.list).filter((thing) => !thing.regions.some(({ label }) => taken.has(label)));
  const [chosen, setChosen] = useState("");
  const thing = free.find((one) => String(one.regions[0]?.label) === chosen) ?? free[0];

  function add() {
    if (!thing) return;
    const fresh = {
      name: thing.name.slice(0, 40),
      regions: thing.regions.map((region) => region.label),
      margin: "1 mm",
      foam: "2 mm",
    };
    void change((now) => ({ ...now, cutouts: [...now.cutouts, fresh] })).catch(() => undefined);
  }

  return (
    <Part name="Cut out">
      {spec.cutouts.map((one, place) => (
        <div
          key={one.name + place}
          className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-1 border-b border-faint pb-2"
        >
          <strong className="w-32 truncate">{one.name}</strong>
          <LengthField label={`${one.name}: margin`} at={`cutouts.${place}.margin`} metric />
          <LengthField label={`${one.name}: foam`} at={`cutouts.${place}.foam`} metric />
          <Button
            kind="quiet"
            onClick={() =>
              void change((now) => ({ ...now, cutouts: now.cutouts.filter((_one, other) => other !== place) })).catch(
                () => undefined,
              )
            }
          >
            Leave it in
          </Button>
        </div>
      ))}
      <div className="flex items-end gap-2">
        <label>
          <span className="block text-[13px] text-soft">A thing to cut out a second time and set up</span>
          <select
            className="field"
            value={String(thing?.regions[0]?.label ?? "")}
            onChange={(event) => setChosen(event.target.value)}
          >
            {free.map((one) => (
              <option key={one.regions[0]?.label} value={one.regions[0]?.label}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <Button disabled={!thing} onClick={add}>
          Cut it out
        </Button>
      </div>
    </Part>
  );
}
