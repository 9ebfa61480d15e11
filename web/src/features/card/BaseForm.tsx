import { useQuery } from "@tanstack/react-query";

import { tradeQuery, type CardSpec } from "@/shared/api";
import { Tick } from "@/shared/ui";
import { useCard } from "./card";
import { CardsField } from "./CardsField";
import { LengthField } from "./LengthField";
import { Part } from "./Part";
import { PartChoice } from "./PartChoice";
import { folded, nameOfSize, setAt } from "./spec";
import { StockChoice } from "./StockChoice";
import { TurnButton } from "./TurnButton";

type Fold = NonNullable<CardSpec["base"]["fold"]>;

/** The card itself: its size when folded, how it folds, what it goes into. */
export function BaseForm() {
  const { spec, change } = useCard();
  const trade = useQuery(tradeQuery).data;
  const sizes = trade?.cards ?? [];
  const wide = spec.base.width === sizes.find((one) => one.code === nameOfSize(spec, sizes))?.height;

  const foldNamed = (code: string | undefined) => trade?.folds.find((one) => one.code === code);
  const way = foldNamed(spec.base.fold);

  function choose(code: string) {
    const size = sizes.find((one) => one.code === code);
    if (!size) return Promise.resolve();
    const [width, height] = wide ? [size.height, size.width] : [size.width, size.height];
    return change((now) => setAt(setAt(now, "base.width", width), "base.height", height));
  }

  return (
    <Part name="Base" action={<TurnButton />}>
      <div className="grid grid-cols-2 gap-3">
        <PartChoice
          label="Size, folded"
          value={nameOfSize(spec, sizes)}
          options={[...sizes, { code: "", name: "Its own size" }]}
          onKeep={choose}
        />
        <PartChoice
          label="Fold"
          value={spec.base.fold}
          options={trade?.folds ?? []}
          onKeep={(fold) => change((now) => folded(now, fold as Fold, foldNamed(fold)?.once ?? false))}
        />
        <StockChoice at="base.stock" value={spec.base.stock} />
        <PartChoice
          label="Envelope"
          value={spec.envelope}
          options={[{ code: "", name: "none yet" }, ...(trade?.envelopes ?? [])]}
          onKeep={(envelope) => change((now) => setAt(now, "envelope", envelope))}
        />
      </div>
      <div className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        <Tick checked={spec.base.with_grain} onKeep={(on) => change((now) => setAt(now, "base.with_grain", on))}>
          Fold along the grain
        </Tick>
        {way?.once && <LengthField label="Front shorter by" at="base.shorter" className="w-20" />}
        <CardsField />
      </div>
    </Part>
  );
}
