import { useState } from "react";

import type { Region } from "@/shared/api";
import { Button, counted } from "@/shared/ui";
import { useChangeRegions, useJoinRegions, useMakeBody, useSplitRegion } from "./api";
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
  const split = useSplitRegion(piece.id);
  const makeBody = useMakeBody(piece.id);
  const bodies = new Set(chosen.map((region) => region.body));
  const oneBody = bodies.size === 1 && !bodies.has(0);
  const mates = oneBody ? piece.regions.filter((region) => bodies.has(region.body)).map((region) => region.label) : [];
  const [bySize, setBySize] = useState(false);
  const first = chosen[0];
  const allPaper = chosen.every((region) => region.left_as_paper);
  const regions = bySize ? [...piece.regions].sort((one, other) => other.area_mm2 - one.area_mm2) : piece.regions;

  /** The keyboard's way to part a region: straight through the place that is farthest from its outline. */
  function halve(region: Region, upright: boolean) {
    const x = region.anchor_x * piece.width_mm;
    const y = region.anchor_y * piece.height_mm;
    split.mutate({ label: region.label, line: upright ? [[x, -5], [x, piece.height_mm + 5]] : [[-5, y], [piece.width_mm + 5, y]] });
  }

  return (
    <div>
      <div className="mb-3 rounded bg-faint p-3">
        {bench.tool === "barrier" && (
          <p className="mb-2 flex items-center justify-between gap-3 rounded bg-ink px-3 py-2 text-sheet">
            Draw across a region on the picture, from outline to outline. <Button kind="quiet" onClick={() => bench.takeTool("hand")}>Stop</Button>
          </p>
        )}
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
              {chosen.length > 1 && !oneBody && (
                <Button busy={makeBody.isPending} title="Shading then runs across all of them" onClick={() => makeBody.mutate({ labels: [...selected], together: true })}>Make one body</Button>
              )}
              {mates.length > chosen.length && <Button onClick={() => bench.selectOnly(mates)}>Take its whole body</Button>}
              {chosen.some((region) => region.body > 0) && (
                <Button busy={makeBody.isPending} onClick={() => makeBody.mutate({ labels: [...selected], together: false })}>Take out of the body</Button>
              )}
              {chosen.length === 1 && (
                <>
                  <Button busy={split.isPending} title="Cut it from top to bottom through its middle" onClick={() => halve(first, true)}>Split upright</Button>
                  <Button busy={split.isPending} title="Cut it from side to side through its middle" onClick={() => halve(first, false)}>Split level</Button>
                </>
              )}
              <Button kind="quiet" onClick={() => bench.selectOnly([])}>Let go</Button>
            </div>
          </>
        )}
      </div>
      <Button kind="quiet" className="mb-2" onClick={() => bench.takeTool("barrier")}>Split a region with a drawn barrier</Button>
      <label className="mb-1 flex items-center gap-2 text-[13px]">
        <input type="checkbox" checked={bySize} onChange={(event) => setBySize(event.target.checked)} /> Biggest first
      </label>
      <RegionRows regions={regions} detail={(region) => (
        <span className="text-[13px] text-soft">
          {region.left_as_paper ? "left as paper" : region.form}{region.body > 0 && ` · body ${region.body}`}, {region.area_mm2 < 10 ? region.area_mm2.toFixed(1) : Math.round(region.area_mm2)} mm²
        </span>
      )} />
    </div>
  );
}
