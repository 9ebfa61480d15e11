import { useQuery } from "@tanstack/react-query";

import { drawerQueries, type Medium, type Trade } from "@/shared/api";
import { Button, RampChips, StepBars, tell } from "@/shared/ui";
import { useChooseMedium, useColourWishes, usePencilOver } from "./api";
import { useChosen, usePiece } from "./bench";
import { FitAdvice } from "./FitAdvice";
import { PaletteBox } from "./PaletteBox";
import { RampEditor } from "./RampEditor";
import { ThingRows } from "./ThingRows";
import { ValueGuard } from "./ValueGuard";

export function ColoursSection({ trade }: { trade: Trade }) {
  const piece = usePiece();
  const drawers = useQuery(drawerQueries.list).data ?? [];
  const chooseMedium = useChooseMedium(piece.id);
  const colourWishes = useColourWishes(piece.id);
  const over = usePencilOver(piece.id);
  const pencils = drawers.find((one) => one.medium === "pencil");
  const chosen = useChosen();
  const wishes = piece.regions.list.filter((region) => region.wish_hex && !region.ramp && !region.left_as_paper).length;

  function take(medium: Medium, drawer?: number) {
    const wanted = drawer ?? drawers.find((one) => one.medium === medium)?.id;
    const laid = piece.colours.pen_count > 0;
    if (wanted !== undefined)
      chooseMedium.mutate(
        { medium, drawer: wanted },
        {
          onSuccess: () =>
            laid &&
            tell("The ramps were taken off with their old drawer; wished colours stay. Undo brings the ramps back."),
        },
      );
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
      {piece.colours.medium === "marker" && piece.colours.pen_count > 0 && pencils && (
        <p className="mb-2">
          <Button
            kind="quiet"
            busy={over.isPending}
            title="The marker stays beneath; as many pencils as markers are laid over it"
            onClick={() =>
              over.mutate(pencils.id, {
                onSuccess: () =>
                  tell("The marker lies beneath; the pencils nearest to it go over. Undo brings the marker back."),
              })
            }
          >
            Go over it in pencil
          </Button>
        </p>
      )}
      {piece.regions.list.some((region) => region.under.length > 0) && (
        <p className="mb-2 text-[13px] text-soft">Marker lies beneath; the pencils go over it when it is dry.</p>
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
        <RampEditor key={chosen.map((region) => region.label).join()} regions={chosen} />
      ) : (
        <p className="mb-3 rounded bg-faint p-3">
          Click a region on the picture or in the list to give it colours. Shift-click takes several in hand.
        </p>
      )}
      <ThingRows
        regions={piece.regions.list}
        detail={(region) =>
          region.ramp ? (
            <span className="flex items-center gap-2">
              {region.ramp.warnings.length > 0 && (
                <span className="rounded bg-ink px-1.5 text-[12px] text-sheet" title={region.ramp.warnings.join(" ")}>
                  look
                </span>
              )}
              <span className="w-32">
                <RampChips swatches={region.ramp.swatches} small />
              </span>
              <span className="w-7">
                <StepBars steps={region.ramp.steps} />
              </span>
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
