import { useState } from "react";

import { useQuery } from "@tanstack/react-query";

import { nameOf, tradeQuery, type DrawerDetail, type SwatchRecord } from "@/shared/api";
import { Ask, Button, swatchStyle } from "@/shared/ui";
import { useChangeSwatch, useRemoveSwatch, type SwatchChanges } from "./api";
import { ReaderBox } from "./ReaderBox";
import { Substitutes } from "./Substitutes";
import { SwatchForm } from "./SwatchForm";

/** One swatch with all that is known of it. */
export function SwatchPanel({
  drawer,
  swatch,
  onRenamed,
}: {
  drawer: DrawerDetail;
  swatch: SwatchRecord;
  onRenamed: (code: string | null) => void;
}) {
  const [editing, setEditing] = useState(false);
  const change = useChangeSwatch(drawer.id);
  const remove = useRemoveSwatch(drawer.id);
  const measured = useQuery(tradeQuery).data?.measured;
  const mark = (changes: SwatchChanges) => change.mutate({ swatch: swatch.id, changes });
  const family = drawer.records.filter((one) => one.family === swatch.family);
  const more = [
    ["Two coats", swatch.two_coats],
    ["Diluted", swatch.diluted],
    ["Light pressure", swatch.light_pressure],
    ["Firm pressure", swatch.firm_pressure],
  ] as const;
  return (
    <aside
      aria-label="Chosen swatch"
      aria-live="polite"
      className="h-fit w-80 shrink-0 rounded-sm bg-sheet p-5 shadow-lg"
    >
      <h2 className="mb-3 text-lg">{swatch.name}</h2>
      <div className="mb-3 h-20 rounded bg-(--swatch)" style={swatchStyle(swatch.hex)} />
      {swatch.doubt && <p className="mb-3 border-l-2 border-ink pl-3">{swatch.doubt}</p>}
      <dl className="[&>div]:flex [&>div]:justify-between [&>div]:gap-3 [&>div]:border-t [&>div]:border-line [&>div]:py-1">
        <div>
          <dt>In words</dt>
          <dd>{swatch.words}</dd>
        </div>
        <div>
          <dt>L* a* b*</dt>
          <dd>{lab(swatch.lab)}</dd>
        </div>
        {more.map(
          ([name, value]) =>
            value && (
              <div key={name}>
                <dt>{name}</dt>
                <dd>{lab(value)}</dd>
              </div>
            ),
        )}
        {swatch.opacity != null && (
          <div>
            <dt>Opacity</dt>
            <dd>{Math.round(swatch.opacity * 100)} %</dd>
          </div>
        )}
        <div>
          <dt>Measured</dt>
          <dd className="text-right">{nameOf(measured, swatch.measured ?? "cap")}</dd>
        </div>
        <div>
          <dt>Code</dt>
          <dd>{swatch.code}</dd>
        </div>
        {swatch.maker && (
          <div>
            <dt>Maker</dt>
            <dd>{swatch.maker}</dd>
          </div>
        )}
        {swatch.family && (
          <div>
            <dt>Family</dt>
            <dd>{inFamily(family.map((one) => Math.round(one.lab[0] ?? 0)))}</dd>
          </div>
        )}
      </dl>
      <div className="mt-3 flex flex-wrap gap-x-4 gap-y-1 border-t border-line pt-2">
        <Button kind="quiet" onClick={() => setEditing(true)}>
          Edit
        </Button>
        <Button
          kind="quiet"
          aria-pressed={swatch.running_low}
          onClick={() => mark({ running_low: !swatch.running_low })}
        >
          {swatch.running_low ? "Restocked" : "Running low"}
        </Button>
        <Button kind="quiet" aria-pressed={swatch.retired} onClick={() => mark({ retired: !swatch.retired })}>
          {swatch.retired ? "Bring back" : "Retire"}
        </Button>
        <Button
          kind="quiet"
          busy={remove.isPending}
          onClick={() => remove.mutate(swatch.id, { onSuccess: () => onRenamed(null) })}
        >
          Remove
        </Button>
      </div>
      <Substitutes swatch={swatch} />
      <ReaderBox drawer={drawer} swatch={swatch} />
      <Ask open={editing} onClose={() => setEditing(false)} title={`Edit ${swatch.name}`}>
        <SwatchForm
          drawer={drawer}
          swatch={swatch}
          onDone={(code) => {
            setEditing(false);
            onRenamed(code);
          }}
          onCancel={() => setEditing(false)}
        />
      </Ask>
    </aside>
  );
}

function lab(value: readonly number[]): string {
  return value.map((one) => one.toFixed(1)).join(" · ");
}

/** The lightness of a family's swatches, or only how far they reach when there are many. */
function inFamily(lights: number[]): string {
  const falling = lights.sort((one, other) => other - one);
  return falling.length > 8 ? `${falling.length} swatches, L* ${falling[0]} to ${falling.at(-1)}` : falling.join(" · ");
}
