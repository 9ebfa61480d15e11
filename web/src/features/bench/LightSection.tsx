import { Button, useDraft } from "@/shared/ui";
import { useSetGlows, useSetZoning, useTurnLamp, type Glow } from "./api";
import { chosenRegions, useBench } from "./bench";
import { FormFields } from "./FormFields";
import { Slider } from "./Slider";

/** The lamp in numbers, for those who would rather type than drag. */
export function LightSection() {
  const bench = useBench();
  const { lamp, shadows } = bench.piece;
  const [shadowsShown, setShadowsShown] = useDraft(shadows);
  const turnLamp = useTurnLamp(bench.piece.id);
  const setZoning = useSetZoning(bench.piece.id);
  const chosen = chosenRegions(bench);
  const plain = { azimuth_deg: lamp.azimuth_deg, elevation_deg: lamp.elevation_deg, ambient: lamp.ambient };
  return (
    <div className="flex flex-col gap-3">
      <p className="text-soft">Drag the lamp along its track round the card; outwards stands low, inwards high. With the keyboard: left and right turn it, up and down lift it, Shift takes bigger steps.</p>
      <Slider label="Direction" unit="°" min={0} max={359} value={Math.round(lamp.azimuth_deg) % 360} onKeep={(azimuth_deg) => turnLamp.mutate({ ...plain, azimuth_deg })} />
      <Slider label="Height" unit="°" min={0} max={90} value={Math.round(lamp.elevation_deg)} onKeep={(elevation_deg) => turnLamp.mutate({ ...plain, elevation_deg })} />
      <Slider label="Ambient" unit="%" min={0} max={90} value={Math.round(lamp.ambient * 100)} onKeep={(percent) => turnLamp.mutate({ ...plain, ambient: percent / 100 })} />
      <Slider label="True to the scene" unit="%" min={0} max={100} step={10} value={Math.round(bench.piece.true_to_scene * 100)} onKeep={(percent) => setZoning.mutate({ true_to_scene: percent / 100, shadows })} />
      <p className="text-[13px] text-soft">At 0 every region gets its whole ramp; at 100 a region that lies in shade stays dark all over.</p>
      <label className="flex items-center gap-2">
        <input type="checkbox" className="size-5 accent-ink" checked={shadowsShown}
          onChange={(event) => {
            setShadowsShown(event.target.checked);
            setZoning.mutate({ true_to_scene: bench.piece.true_to_scene, shadows: event.target.checked }, { onError: () => setShadowsShown(shadows) });
          }} />
        Nearer things cast shadows on what lies behind
      </label>
      <GlowList />
      {chosen.length > 0 ? (
        <div className="rounded bg-faint p-3">
          <p className="font-bold">{chosen.length === 1 ? chosen[0]?.name : `${chosen.length} regions in hand`}</p>
          <FormFields regions={chosen} />
        </div>
      ) : <p>Click a region on the picture to say how it bulges.</p>}
    </div>
  );
}

/** The lights inside the picture: a lantern, a star, a window. */
function GlowList() {
  const bench = useBench();
  const { piece } = bench;
  const setGlows = useSetGlows(piece.id);
  const chosen = chosenRegions(bench)[0];
  const change = (index: number, glow: Partial<Glow>) => setGlows.mutate(piece.glows.map((old, place) => (place === index ? { ...old, ...glow } : old)));

  function add() {
    const x_mm = (chosen?.anchor_x ?? 0.5) * piece.width_mm;
    const y_mm = (chosen?.anchor_y ?? 0.5) * piece.height_mm;
    setGlows.mutate([...piece.glows, { x_mm, y_mm, height_mm: 8, reach_mm: 20, strength: 1 }]);
  }

  return (
    <div className="border-t border-line pt-2">
      {piece.glows.map((glow, index) => (
        <div key={index} role="group" aria-label={`Glow ${index + 1}`} className="mb-2 rounded bg-faint p-3">
          <p className="flex justify-between font-bold">Glow {index + 1} <Button kind="quiet" className="font-normal" aria-label={`Remove glow ${index + 1}`}
            onClick={() => setGlows.mutate(piece.glows.filter((_glow, place) => place !== index))}>Remove</Button></p>
          <Slider label="Reach" unit=" mm" min={2} max={80} value={Math.round(glow.reach_mm)} onKeep={(reach_mm) => change(index, { reach_mm })} />
          <Slider label="Strength" unit="%" min={0} max={300} step={10} value={Math.round(glow.strength * 100)} onKeep={(percent) => change(index, { strength: percent / 100 })} />
        </div>
      ))}
      <Button busy={setGlows.isPending} disabled={piece.glows.length >= 12} onClick={add}>{chosen ? `Add a glow in ${chosen.name}` : "Add a glow"}</Button>
    </div>
  );
}
