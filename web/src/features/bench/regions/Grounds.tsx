import { useState } from "react";

import type { Region, Request, Trade } from "@/shared/api";
import { Button, Choice, Slider, Tick } from "@/shared/ui";
import { useChangeRegions, useDrawHorizon, useLayGround, useLeaveGround, useTakeGround } from "../api";
import { Bands } from "./Bands";
import { useChosen, useHand, usePiece } from "../bench";

type Fade = NonNullable<Region["fade"]>;

/** The paper round the figure as something to be coloured: taken, parted, faded. */
export function Grounds({ trade }: { trade: Trade }) {
  const piece = usePiece();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const take = useTakeGround(piece.id);
  const grounds = piece.regions.list.filter((region) => region.fade);
  const inHand = useChosen();
  const chosen = inHand.filter((region) => region.fade);
  const change = useChangeRegions(piece.id);
  const taken = piece.regions.taken.length > 0;
  return (
    <div className="mb-3 rounded bg-faint p-3">
      <p className="mb-1 font-bold">Ground</p>
      {!taken && (
        <p className="flex flex-wrap items-center gap-x-3">
          The paper round the figure stays as it is.
          <Button
            busy={take.isPending}
            onClick={() =>
              take.mutate(
                { margin_mm: 0 },
                {
                  onSuccess: (after) =>
                    selectOnly(
                      after.regions.list
                        .filter((region) => !piece.regions.list.some((old) => old.label === region.label))
                        .map((region) => region.label),
                    ),
                },
              )
            }
          >
            Colour it too
          </Button>
        </p>
      )}
      {taken && chosen.length === 0 && (
        <p className="flex flex-wrap gap-x-3">
          {grounds.map((region) => (
            <Button key={region.label} kind="quiet" onClick={() => selectOnly([region.label])}>
              {region.name}
            </Button>
          ))}
        </p>
      )}
      {inHand.length > 0 && chosen.length === 0 && (
        <p>
          <Button
            kind="quiet"
            title="A wall or a sky within the drawing: its light is a fade then, not a form"
            onClick={() =>
              change.mutate({
                labels: inHand.map((region) => region.label),
                changes: { fade: { kind: "side" } as Fade },
              })
            }
          >
            Let what is in hand fade like a ground
          </Button>
        </p>
      )}
      {piece.regions.ground_advice.map((line) => (
        <p key={line} className="my-1 rounded bg-ink px-2 py-1 text-[13px] text-sheet">
          {line}
        </p>
      ))}
      {chosen.length > 0 && <GroundFields key={chosen.map((one) => one.label).join()} grounds={chosen} trade={trade} />}
    </div>
  );
}

function GroundFields({ grounds, trade }: { grounds: Region[]; trade: Trade }) {
  const piece = usePiece();
  const change = useChangeRegions(piece.id);
  const lay = useLayGround(piece.id);
  const horizon = useDrawHorizon(piece.id);
  const leave = useLeaveGround(piece.id);
  const first = grounds[0] as Region;
  const fade = first.fade as Fade;
  const labels = grounds.map((region) => region.label);
  const [way, setWay] = useState(
    (trade.ways.find((one) => one.medium === first.coats[0]?.medium) ?? trade.ways[0])?.code ?? "",
  );
  const [wish, setWish] = useState(first.wish_hex ?? "#4a6fa8");
  const keep = (next: Partial<Fade>) =>
    change.mutateAsync({ labels, changes: ([now]) => ({ fade: { ...(now?.fade ?? fade), ...next } }) });
  const chosenWay = trade.ways.find((one) => one.code === way);
  const parted = piece.regions.horizons.some((one) => one.label === first.label);
  return (
    <div className="flex flex-col gap-2">
      <p>{grounds.map((region) => region.name).join(", ")}</p>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <Choice
          label="Fades"
          value={fade.kind}
          options={trade.fades}
          onKeep={(kind) =>
            keep({
              kind: kind,
              ...(kind === "point" && !fade.x_mm && !fade.y_mm
                ? { x_mm: Math.round(piece.width_mm / 2), y_mm: Math.round(piece.height_mm / 3), bare_mm: 4 }
                : {}),
            })
          }
        />
        {fade.kind === "side" && (
          <Choice
            label="Side"
            value={String(fade.from_deg)}
            options={
              trade.sides.some((side) => side.code === String(fade.from_deg))
                ? trade.sides
                : [...trade.sides, { code: String(fade.from_deg), name: `${fade.from_deg}°` }]
            }
            onKeep={(from) => keep({ from_deg: Number(from) })}
          />
        )}
        {fade.kind === "point" && (
          <Choice
            label="Falls off"
            value={fade.profile}
            options={trade.profiles}
            onKeep={(profile) => keep({ profile: profile })}
          />
        )}
        {fade.kind !== "even" && (
          <Tick checked={fade.turned ?? false} onKeep={(turned) => keep({ turned })}>
            Turned round
          </Tick>
        )}
      </div>
      {fade.kind === "side" && (
        <Slider
          label="Turned by"
          unit="°"
          min={0}
          max={355}
          step={5}
          value={fade.from_deg ?? 0}
          onKeep={(from_deg) => void keep({ from_deg })}
        />
      )}
      {fade.kind !== "even" && (
        <Slider
          label={fade.kind === "point" ? "Half as light at" : fade.reach_mm ? "Fades over" : "Fades over all"}
          unit=" mm"
          min={0}
          max={Math.ceil(Math.max(piece.width_mm, piece.height_mm))}
          value={fade.reach_mm ?? 0}
          onKeep={(reach_mm) => void keep({ reach_mm })}
        />
      )}
      {fade.kind === "point" && (
        <Slider
          label="Left bare within"
          unit=" mm"
          min={0}
          max={40}
          value={fade.bare_mm ?? 0}
          onKeep={(bare_mm) => void keep({ bare_mm })}
        />
      )}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-t border-line pt-2">
        <Choice label="Lay it with" value={way} options={trade.ways} onKeep={setWay} />
        <label className="flex items-center gap-2">
          near
          <input
            type="color"
            aria-label="Colour of the ground"
            className="h-8 w-12 rounded border border-soft bg-sheet"
            value={wish}
            onChange={(event) => setWish(event.target.value)}
          />
        </label>
        <Button
          busy={lay.isPending}
          onClick={() => lay.mutate({ labels, way: way as Request<"LayGround">["way"], wish_hex: wish })}
        >
          Lay it
        </Button>
      </div>
      {chosenWay?.caution && <p className="border-l-4 border-ink pl-2 text-[13px]">{chosenWay.caution}</p>}
      <div className="flex flex-wrap gap-2 border-t border-line pt-2">
        {!parted && (
          <Button
            busy={horizon.isPending}
            title="What lies below it becomes a ground of its own; drag its handles on the picture"
            onClick={() =>
              horizon.mutate({
                label: first.label,
                handles: [0.02, 0.5, 0.98].map((share) => [
                  Math.round(share * piece.width_mm),
                  Math.round(0.6 * piece.height_mm),
                ]),
              })
            }
          >
            Draw a horizon
          </Button>
        )}
        {piece.regions.taken.includes(first.label) ? (
          <Button kind="quiet" busy={leave.isPending} onClick={() => leave.mutate()}>
            Leave the paper as it is
          </Button>
        ) : (
          <Button kind="quiet" onClick={() => change.mutate({ labels, changes: { fade: null } })}>
            Give it its form again
          </Button>
        )}
      </div>
      <Bands label={first.label} sides={trade.sides} />
    </div>
  );
}
