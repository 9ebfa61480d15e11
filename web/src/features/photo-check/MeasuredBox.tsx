import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Measured } from "@/shared/api";
import { Button, tell } from "@/shared/ui";
import { checkQueries, useTakeMeasured } from "./api";
import { ColourPair } from "./ColourPair";

/** Swatches that come out otherwise on own cards than their values say: take the measured value, or put it back. */
export function MeasuredBox({ piece }: { piece: number }) {
  const measured = useQuery(checkQueries.measured(piece));
  const take = useTakeMeasured(piece);
  const [taken, setTaken] = useState<{ one: Measured; version: number } | null>(null);
  if (!taken && !measured.data?.length) return null;
  const write = (one: Measured, version: number, back: boolean) =>
    take.mutate(
      { swatch: one.swatch, lab: back ? one.old : one.new, measured: back ? one.old_measured : "card", version },
      {
        onSuccess: (told) => {
          setTaken(back ? null : { one, version: told.drawer_version });
          tell(back ? `${one.name} is as it was.` : `${one.name} now has the value of your own cards.`);
        },
      },
    );
  return (
    <section aria-label="Measured on my own cards">
      <h2 className="mb-1 text-xl">Measured on my own cards</h2>
      <p className="mb-2 text-[14px] text-soft">
        Three or more cards agree that these come out otherwise than their values say. Recipes kept so far stay as they
        are.
      </p>
      {taken && (
        <p className="mb-2">
          {taken.one.name} was changed.{" "}
          <Button busy={take.isPending} onClick={() => write(taken.one, taken.version, true)}>
            Put the old value back
          </Button>
        </p>
      )}
      <ul className="space-y-2">
        {measured.data?.map((one) => (
          <li key={one.swatch} className="flex items-center gap-3">
            <ColourPair colours={[one.old_hex, one.new_hex]} words={["As it stands", "As measured"]} />
            <span className="grow">
              <strong>{one.name}</strong>: off by {one.size.toFixed(1)} on {one.cards} cards (they differ by{" "}
              {one.spread.toFixed(1)})
            </span>
            <Button className="shrink-0" busy={take.isPending} onClick={() => write(one, one.drawer_version, false)}>
              Take the measured value
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
