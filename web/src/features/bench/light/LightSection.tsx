import { LIMITS, type Glow } from "@/shared/api";
import { Button, Slider, Tick } from "@/shared/ui";
import { useDescribeLight, useSetGlows, useTurnLamp } from "../api";
import { useChosen, useHand, usePiece } from "../bench";
import { FormFields } from "./FormFields";
import { LightCheck } from "./LightCheck";

const SHARES = [
  { field: "true_to_scene", label: "True to the scene", min: 0 },
  { field: "shade", label: "Amount of shade", min: -100 },
  { field: "follow", label: "Follow the stamp", min: 0 },
] as const;

/** The lamp in numbers, for those who would rather type than drag. */
export function LightSection() {
  const piece = usePiece();
  const { lamp } = piece.light;
  const turnLamp = useTurnLamp(piece.id);
  const describe = useDescribeLight(piece.id);
  const chosen = useChosen();
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">
        Drag the lamp along its track round the card; outwards stands low, inwards high. With the keyboard: left and
        right turn it, up and down lift it, Shift takes bigger steps.
      </p>
      <Slider
        label="Direction"
        unit="°"
        min={0}
        max={359}
        value={Math.round(lamp.azimuth_deg) % 360}
        onKeep={(azimuth_deg) => turnLamp.mutate({ azimuth_deg })}
      />
      <Slider
        label="Height"
        unit="°"
        min={0}
        max={90}
        value={Math.round(lamp.elevation_deg)}
        onKeep={(elevation_deg) => turnLamp.mutate({ elevation_deg })}
      />
      <Slider
        label="Ambient"
        unit="%"
        min={0}
        max={90}
        value={Math.round(lamp.ambient * 100)}
        onKeep={(percent) => turnLamp.mutate({ ambient: percent / 100 })}
      />
      {SHARES.map(({ field, label, min }) => (
        <Slider
          key={field}
          label={label}
          unit="%"
          min={min}
          max={100}
          step={10}
          value={Math.round(piece.light[field] * 100)}
          onKeep={(percent) => describe.mutate({ [field]: percent / 100 })}
        />
      ))}
      <p className="text-[13px] text-soft">
        True to the scene: at 0 every region gets its whole ramp; at 100 a region that lies in shade stays dark all
        over. Follow the stamp bends the zones towards hatching, dots and dark patches that are printed.
      </p>
      <Tick checked={piece.light.shadows} onKeep={(shadows) => describe.mutateAsync({ shadows })}>
        Nearer things cast shadows on what lies behind
      </Tick>
      <GlowList />
      <LightCheck />
      <BorderTool />
      {chosen.length > 0 ? (
        <div className="rounded bg-faint p-3">
          <p className="font-bold">{chosen.length === 1 ? chosen[0]?.name : `${chosen.length} regions in hand`}</p>
          <FormFields regions={chosen} />
        </div>
      ) : (
        <p>Click a region on the picture to say how it bulges.</p>
      )}
    </div>
  );
}

const TINTS = [
  { name: "none, white light", hex: "" },
  { name: "candle, warm yellow", hex: "#ffd27a" },
  { name: "ember, orange", hex: "#ff9d5c" },
  { name: "moonlight, pale blue", hex: "#bcd4ff" },
  { name: "rose", hex: "#ffb3c4" },
  { name: "leaf green", hex: "#c4e8a8" },
];

/** Turning borders round on the picture. */
function BorderTool() {
  const tool = useHand((hand) => hand.tool);
  const takeTool = useHand((hand) => hand.takeTool);
  return tool === "border" ? (
    <p className="flex items-center justify-between gap-3 rounded bg-ink px-3 py-2 text-sheet on-dark">
      Click on a line to say which side of it stands in front.{" "}
      <Button kind="quiet" onClick={() => takeTool("hand")}>
        Stop
      </Button>
    </p>
  ) : (
    <div>
      <Button onClick={() => takeTool("border")}>Say on the picture what stands in front</Button>
    </div>
  );
}

/** The lights inside the picture: a lantern, a star, a window. */
function GlowList() {
  const piece = usePiece();
  const setGlows = useSetGlows(piece.id);
  const chosen = useChosen()[0];
  const change = (index: number, glow: Partial<Glow>) =>
    setGlows.mutate((glows) => glows.map((old, place) => (place === index ? { ...old, ...glow } : old)));

  function add() {
    const x_mm = (chosen?.anchor_x ?? 0.5) * piece.width_mm;
    const y_mm = (chosen?.anchor_y ?? 0.5) * piece.height_mm;
    setGlows.mutate((glows) => [
      ...glows,
      { x_mm, y_mm, height_mm: 8, reach_mm: 20, strength: 1, tint: "", reserve_mm: 0 },
    ]);
  }

  return (
    <div className="border-t border-line pt-2">
      {piece.light.glows.map((glow, index) => (
        <div key={index} role="group" aria-label={`Glow ${index + 1}`} className="mb-2 rounded bg-faint p-3">
          <p className="flex justify-between font-bold">
            Glow {index + 1}{" "}
            <Button
              kind="quiet"
              className="font-normal"
              aria-label={`Remove glow ${index + 1}`}
              onClick={() => setGlows.mutate((glows) => glows.filter((_glow, place) => place !== index))}
            >
              Remove
            </Button>
          </p>
          <Slider
            label="Reach"
            unit=" mm"
            min={2}
            max={80}
            value={Math.round(glow.reach_mm)}
            onKeep={(reach_mm) => change(index, { reach_mm })}
          />
          <Slider
            label="Strength"
            unit="%"
            min={0}
            max={300}
            step={10}
            value={Math.round(glow.strength * 100)}
            onKeep={(percent) => change(index, { strength: percent / 100 })}
          />
          <Slider
            label="Paper left bare"
            unit=" mm"
            min={0}
            max={30}
            value={Math.round(glow.reserve_mm ?? 0)}
            onKeep={(reserve_mm) => change(index, { reserve_mm })}
          />
          <label className="flex items-center gap-3">
            Tint
            <select
              className="rounded border border-soft px-1 py-1"
              value={TINTS.some((tint) => tint.hex === glow.tint) ? glow.tint : ""}
              onChange={(event) => change(index, { tint: event.target.value })}
            >
              {TINTS.map((tint) => (
                <option key={tint.hex} value={tint.hex}>
                  {tint.name}
                </option>
              ))}
            </select>
          </label>
        </div>
      ))}
      <Button busy={setGlows.isPending} disabled={piece.light.glows.length >= LIMITS.glows.most} onClick={add}>
        {chosen ? `Add a glow in ${chosen.name}` : "Add a glow"}
      </Button>
    </div>
  );
}
