import { useState } from "react";

import { Button, counted } from "@/shared/ui";
import { useChangeRegions, useJoinRegions } from "./api";
import { chosenRegions, useBench } from "./bench";
import { FormFields } from "./FormFields";
import { KeptField } from "./KeptField";
import { RegionRows } from "./RegionRows";

/** Naming, joining, and leaving as paper. A click on the picture takes a region in hand; Shift adds more. */
export function RegionsSection() {
  const bench = useBench();
  const { piece, selected } = bench;
  const chosen = chosenRegions(bench);
  const change = useChangeRegions(piece.id);
  const join = useJoinRegions(piece.id);
  const [bySize, setBySize] = useState(false);
  const first = chosen[0];
  const allPaper = chosen.every((region) => region.left_as_paper);
  const regions = bySize ? [...piece.regions].sort((one, other) => other.area_mm2 - one.area_mm2) : piece.regions;

  return (
    <div>
      <div className="mb-3 rounded bg-faint p-3">
        {!first && <p>Click a region on the picture or in the list. Shift-click takes several in hand.</p>}
        {first && (
          <>
            {chosen.length === 1
              ? <KeptField key={first.label} label="Name" value={first.name} maxLength={60} required
                onKeep={(name) => change.mutate({ labels: [first.label], changes: { name } })} />
              : <p className="font-bold">{counted(chosen.length, "region")} in hand</p>}
            <FormFields regions={chosen} />
            <div className="mt-3 flex flex-wrap gap-2">
              <Button onClick={() => change.mutate({ labels: [...selected], changes: { left_as_paper: !allPaper } })}>
                {allPaper ? "Colour it after all" : "Leave as paper"}
              </Button>
              <Button disabled={chosen.length < 2} busy={join.isPending} title={chosen.length < 2 ? "Take at least two regions in hand" : undefined}
                onClick={() => join.mutate([...selected])}>Join into one</Button>
              <Button kind="quiet" onClick={() => bench.selectOnly([])}>Let go</Button>
            </div>
          </>
        )}
      </div>
      <label className="mb-1 flex items-center gap-2 text-[13px]">
        <input type="checkbox" checked={bySize} onChange={(event) => setBySize(event.target.checked)} /> Biggest first
      </label>
      <RegionRows regions={regions} detail={(region) => (
        <span className="text-[13px] text-soft">
          {region.left_as_paper ? "left as paper" : region.form}, {region.area_mm2 < 10 ? region.area_mm2.toFixed(1) : Math.round(region.area_mm2)} mm²
        </span>
      )} />
    </div>
  );
}
