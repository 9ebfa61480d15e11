import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { LIMITS, tradeQuery, type Region } from "@/shared/api";
import { Button, counted } from "@/shared/ui";
import { useChangeRegions, useEraseRegion, useJoinRegions, useMakeBody, useSplitRegion } from "../api";
import { useChosen, useHand, usePiece, useSelected } from "../bench";
import { FormFields } from "../light/FormFields";
import { Grounds } from "./Grounds";
import { KeptField } from "../KeptField";
import { LookForThings } from "./LookForThings";
import { QuickRound } from "./QuickRound";
import { ThingRows } from "./ThingRows";
import { TagField } from "./TagField";
import { ThingButtons } from "./ThingButtons";
import { WhatIsThis } from "./WhatIsThis";

function area(mm2: number): string {
  return `${mm2 < 10 ? mm2.toFixed(1) : Math.round(mm2)} mm²`;
}

/** Regions of one body stand together, where the first of them stands. */
function byBody(regions: Region[]): Region[] {
  const place = new Map<number, number>();
  regions.forEach((region, index) => {
    if (region.body && !place.has(region.body)) place.set(region.body, index);
  });
  const at = (region: Region, index: number) => place.get(region.body) ?? index;
  return regions
    .map((region, index) => ({ region, at: at(region, index) }))
    .sort((one, other) => one.at - other.at)
    .map(({ region }) => region);
}

/** Naming, joining, and leaving as paper. A click on the picture takes a region in hand; Shift adds more. */
export function RegionsSection() {
  const piece = usePiece();
  const selected = useSelected();
  const tool = useHand((hand) => hand.tool);
  const takeTool = useHand((hand) => hand.takeTool);
  const selectOnly = useHand((hand) => hand.selectOnly);
  const chosen = useChosen();
  const change = useChangeRegions(piece.id);
  const join = useJoinRegions(piece.id);
  const split = useSplitRegion(piece.id);
  const makeBody = useMakeBody(piece.id);
  const erase = useEraseRegion(piece.id);
  const bodies = new Set(chosen.map((region) => region.body));
  const oneBody = bodies.size === 1 && !bodies.has(0);
  const mates = oneBody
    ? piece.regions.list.filter((region) => bodies.has(region.body)).map((region) => region.label)
    : [];
  const [bySize, setBySize] = useState(false);
  const trade = useQuery(tradeQuery).data;
  const first = chosen[0];
  const allPaper = chosen.every((region) => region.left_as_paper);
  const regions = bySize
    ? [...piece.regions.list].sort((one, other) => other.area_mm2 - one.area_mm2)
    : byBody(piece.regions.list);
  const sizes = [...piece.regions.list].sort((one, other) => one.area_mm2 - other.area_mm2);
  const small = piece.regions.list.filter((region) => region.too_small).length;
  const tags = [...new Set(piece.regions.list.flatMap((region) => region.tags))].sort();
  const role = chosen.every((region) => region.role === first?.role) ? first?.role : undefined;

  /** The keyboard's way to part a region: straight through the place that is farthest from its outline. */
  function halve(region: Region, upright: boolean) {
    const x = region.anchor_x * piece.width_mm;
    const y = region.anchor_y * piece.height_mm;
    split.mutate({
      label: region.label,
      line: upright
        ? [
            [x, -5],
            [x, piece.height_mm + 5],
          ]
        : [
            [-5, y],
            [piece.width_mm + 5, y],
          ],
    });
  }

  return (
    <div>
      <QuickRound />
      {trade && <Grounds trade={trade} />}
      {piece.regions.questions.length === 0 && <WhatIsThis />}
      <div className="mb-3 rounded bg-faint p-3">
        {tool === "barrier" && (
          <p className="mb-2 flex items-center justify-between gap-3 rounded bg-ink px-3 py-2 text-sheet">
            Draw across a region on the picture, from outline to outline.{" "}
            <Button kind="quiet" onClick={() => takeTool("hand")}>
              Stop
            </Button>
          </p>
        )}
        {tool === "lasso" && (
          <p className="on-dark mb-2 flex items-center justify-between gap-3 rounded bg-ink px-3 py-2 text-sheet">
            Draw a loop round regions on the picture; Shift keeps what is in hand.{" "}
            <Button kind="quiet" onClick={() => takeTool("hand")}>
              Stop
            </Button>
          </p>
        )}
        {!first && (
          <p>
            Click on the picture or in the list to take a thing in hand, once more for the one region in it. Shift-click
            takes several.
          </p>
        )}
        {first && (
          <>
            <ThingButtons />
            {chosen.length === 1 ? (
              <KeptField
                key={`name ${first.label}`}
                label="Name"
                value={first.name}
                maxLength={LIMITS.RegionFormRequest.name.maxLength}
                required
                onKeep={(name) => change.mutate({ labels: [first.label], changes: { name } })}
              />
            ) : (
              <p className="font-bold">{counted(chosen.length, "region")} in hand</p>
            )}
            <TagField key={`tags ${selected.join()}`} regions={chosen} />
            <FormFields regions={chosen} />
            <div className="mt-3 flex flex-wrap gap-2">
              <Button onClick={() => change.mutate({ labels: [...selected], changes: { left_as_paper: !allPaper } })}>
                {allPaper ? "Colour it after all" : "Leave as paper"}
              </Button>
              <Button
                disabled={chosen.length < 2}
                busy={join.isPending}
                title={chosen.length < 2 ? "Take at least two regions in hand" : undefined}
                onClick={() => join.mutate([...selected])}
              >
                Join into one
              </Button>
              {chosen.length > 1 && !oneBody && (
                <Button
                  busy={makeBody.isPending}
                  title="Shading then runs across all of them"
                  onClick={() => makeBody.mutate({ labels: [...selected], together: true })}
                >
                  Make one body
                </Button>
              )}
              {mates.length > chosen.length && <Button onClick={() => selectOnly(mates)}>Take its whole body</Button>}
              {chosen.some((region) => region.body > 0) && (
                <Button
                  busy={makeBody.isPending}
                  onClick={() => makeBody.mutate({ labels: [...selected], together: false })}
                >
                  Take out of the body
                </Button>
              )}
              {chosen.length === 1 && (
                <>
                  <Button
                    busy={split.isPending}
                    title="Cut it from top to bottom through its middle"
                    onClick={() => halve(first, true)}
                  >
                    Split upright
                  </Button>
                  <Button
                    busy={split.isPending}
                    title="Cut it from side to side through its middle"
                    onClick={() => halve(first, false)}
                  >
                    Split level
                  </Button>
                </>
              )}
              {chosen.length === 1 && (
                <Button
                  busy={erase.isPending}
                  title="It was a blot or dust: it goes to what lies around it"
                  onClick={() => erase.mutate(first.label)}
                >
                  Erase as a speck
                </Button>
              )}
              <Button
                aria-pressed={role === "background"}
                onClick={() =>
                  change.mutate({ labels: [...selected], changes: { role: role === "background" ? "" : "background" } })
                }
              >
                {role === "background" ? "Not the background" : "Mark as background"}
              </Button>
              <Button
                aria-pressed={role === "focal"}
                onClick={() =>
                  change.mutate({ labels: [...selected], changes: { role: role === "focal" ? "" : "focal" } })
                }
              >
                {role === "focal" ? "Not the focal image" : "Mark as focal image"}
              </Button>
              <Button kind="quiet" onClick={() => selectOnly([])}>
                Let go
              </Button>
            </div>
          </>
        )}
      </div>
      <div className="mb-2 flex flex-wrap gap-x-4 gap-y-2">
        <Button kind="quiet" onClick={() => takeTool("barrier")}>
          Split a region with a drawn barrier
        </Button>
        <Button kind="quiet" onClick={() => takeTool("lasso")}>
          Take many with a lasso
        </Button>
        <LookForThings />
        {tags.map((tag) => (
          <Button
            key={tag}
            kind="quiet"
            onClick={() =>
              selectOnly(piece.regions.list.filter((region) => region.tags.includes(tag)).map((region) => region.label))
            }
          >
            Take all {tag}
          </Button>
        ))}
      </div>
      <p className="mb-1 text-[13px] text-soft">
        {sizes[0] && (
          <>
            From {area(sizes[0].area_mm2)} ({sizes[0].name}) to {area(sizes.at(-1)?.area_mm2 ?? 0)} (
            {sizes.at(-1)?.name}).{" "}
          </>
        )}
        {small > 0 && (
          <>
            {counted(small, "region")} {small === 1 ? "is" : "are"} too narrow for two strokes side by side and{" "}
            {small === 1 ? "gets" : "get"} one flat colour unless you say otherwise.
          </>
        )}
      </p>
      <label className="mb-1 flex items-center gap-2 text-[13px]">
        <input type="checkbox" checked={bySize} onChange={(event) => setBySize(event.target.checked)} /> Biggest first
      </label>
      <ThingRows
        regions={regions}
        detail={(region, thing) => (
          <span className="text-[13px] text-soft">
            {region.left_as_paper ? "left as paper" : region.form}
            {region.guessed && !region.left_as_paper && "?"}
            {region.body > 0 && ` · body ${region.body}`}
            {region.role && ` · ${region.role}`}
            {region.too_small && " · tiny"}, {area(thing.reduce((sum, one) => sum + one.area_mm2, 0))}
          </span>
        )}
      />
    </div>
  );
}
