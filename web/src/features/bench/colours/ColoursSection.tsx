import { useQuery } from "@tanstack/react-query";

import { drawerQueries, type Medium, type Region, type Trade, nameOf } from "@/shared/api";
import { Button, RampChips, StepBars, tell } from "@/shared/ui";
import { useChooseMedium, useColourWishes, useLayOver } from "../api";
import { useChosen, usePiece } from "../bench";
import { FitAdvice } from "../stamp/FitAdvice";
import { PaletteBox } from "./PaletteBox";
import { RampEditor } from "./RampEditor";
import { ThingRows } from "../regions/ThingRows";
import { ValueGuard } from "./ValueGuard";

export function ColoursSection({ trade }: { trade: Trade }) {
  const piece = usePiece();
  const drawers = useQuery(drawerQueries.list).data ?? [];
  const chooseMedium = useChooseMedium(piece.id);
  const colourWishes = useColourWishes(piece.id);
  const over = useLayOver(piece.id);
  const chosen = useChosen();
  const bare = (region: Region) => region.coats.length === 0 && !region.left_as_paper;
  const wishes = piece.regions.list.filter((region) => region.wish_hex && bare(region)).length;
  const lies = (region: Region) => region.coats.some((coat) => coat.medium === piece.colours.medium);
  const canGoOver =
    piece.colours.drawer !== null &&
    piece.regions.list.some((region) => region.coats.length > 0 && !region.fade && !lies(region));

  function take(medium: Medium, drawer?: number) {
    const wanted = drawer ?? drawers.find((one) => one.medium === medium)?.id;
    if (wanted !== undefined) chooseMedium.mutate({ medium, drawer: wanted });
  }

  return (
    <div>
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <label className="flex items-center gap-2">
          Medium
          <select
            className="rounded border border-soft px-2 py-1"
            value={piece.colours.medium}
            onChange={(event) => take(event.target.value as Medium)}
          >
            {trade.media.map((medium) => (
              <option
                key={medium.code}
                value={medium.code}
                disabled={!drawers.some((drawer) => drawer.medium === medium.code)}
              >
                {medium.name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          Drawer
          <select
            className="rounded border border-soft px-2 py-1"
            value={piece.colours.drawer ?? ""}
            onChange={(event) => take(piece.colours.medium, Number(event.target.value))}
          >
            {drawers
              .filter((drawer) => drawer.medium === piece.colours.medium)
              .map((drawer) => (
                <option key={drawer.id} value={drawer.id}>
                  {drawer.name}
                </option>
              ))}
          </select>
        </label>
      </div>
      {canGoOver && (
        <p className="mb-2">
          <Button
            kind="quiet"
            busy={over.isPending}
            title="What is there stays beneath; as many swatches of this drawer are laid over it"
            onClick={() =>
              over.mutate(piece.colours.drawer ?? 0, {
                onSuccess: () => tell("One coat more lies over everything, matched to what is beneath."),
              })
            }
          >
            Go over everything in {nameOf(trade.media, piece.colours.medium).toLowerCase()}
          </Button>
        </p>
      )}
      <FitAdvice />
      <ValueGuard trade={trade} />
      <PaletteBox schemes={trade.schemes} />
      {wishes > 0 && (
        <p className="mb-2 flex items-center justify-between gap-3 rounded bg-ink px-3 py-2 text-sheet">
          {wishes} regions have a wished colour but no ramp.
          <Button kind="quiet" busy={colourWishes.isPending} onClick={() => colourWishes.mutate()}>
            Find them all
          </Button>
        </p>
      )}
      {chosen.length > 0 ? (
        <RampEditor
          key={`${chosen.map((region) => region.label).join()} ${piece.colours.medium}`}
          regions={chosen}
          trade={trade}
        />
      ) : (
        <p className="mb-3 rounded bg-faint p-3">
          Click a region on the picture or in the list to give it colours. Shift-click takes several in hand.
        </p>
      )}
      <ThingRows
        regions={piece.regions.list}
        detail={(region) =>
          region.coats.length > 0 ? (
            <span className="flex flex-col gap-0.5">
              {region.coats.map(({ medium, ramp }) => (
                <span key={medium} className="flex items-center gap-2" title={nameOf(trade.media, medium)}>
                  {ramp.warnings.length > 0 && (
                    <span className="rounded bg-ink px-1.5 text-[12px] text-sheet" title={ramp.warnings.join(" ")}>
                      look
                    </span>
                  )}
                  <span className="w-32">
                    <RampChips swatches={ramp.swatches} bare={ramp.bare_hex} small />
                  </span>
                  <span className="w-7">
                    <StepBars steps={ramp.steps} />
                  </span>
                </span>
              ))}
            </span>
          ) : (
            <span className="flex items-center gap-2 text-[13px] text-soft">
              {region.wish_hex && !region.left_as_paper && (
                <span
                  className="size-3.5 rounded-full border border-line"
                  style={{ background: region.wish_hex }}
                  aria-hidden
                />
              )}
              {region.left_as_paper ? "left as paper" : region.wish_hex ? "wished" : "open"}
            </span>
          )
        }
      />
    </div>
  );
}
