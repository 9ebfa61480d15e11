import { Button, Size, Tick } from "@/shared/ui";
import { useCard } from "./card";
import { CentreButtons } from "./CentreButtons";
import { LengthField } from "./LengthField";
import { MatchCard } from "./MatchCard";
import { Part } from "./Part";
import { LAYER, setAt, type Path } from "./spec";
import { StockChoice } from "./StockChoice";

/** What lies on the base: mats from the largest up, and the picture. */
export function LayersForm() {
  const { piece, spec, laid, change } = useCard();
  return (
    <Part
      name="Layers"
      action={
        <Button
          kind="quiet"
          onClick={() => void change((now) => ({ ...now, mats: [...now.mats, LAYER] })).catch(() => undefined)}
        >
          Add a mat
        </Button>
      }
    >
      {spec.mats.map((_, place) => (
        <LayerForm key={place} number={place} at={`mats.${place}`}>
          <Button
            kind="quiet"
            onClick={() =>
              void change((now) => ({ ...now, mats: now.mats.filter((_one, other) => other !== place) })).catch(
                () => undefined,
              )
            }
          >
            Take it off
          </Button>
        </LayerForm>
      ))}
      <LayerForm number={spec.mats.length} at="panel">
        <LengthField label="Kept larger by, each edge" at="panel.trim" />
        <LengthField label="From the picture's left" at="panel.crop_x" otherwise={laid.crop.x} />
        <LengthField label="From its top" at="panel.crop_y" otherwise={laid.crop.y} />
        <CentreButtons />
        <Tick checked={spec.pull_out} onKeep={(on) => change((now) => ({ ...now, pull_out: on }))}>
          Two pictures that change places
        </Tick>
      </LayerForm>
      <MatchCard piece={piece} />
    </Part>
  );
}

function LayerForm({ number, at, children }: { number: number; at: Path; children: React.ReactNode }) {
  const { spec, laid, change } = useCard();
  const layer = at === "panel" ? spec.panel : spec.mats[number];
  const shown = laid.layers[number + 1];
  if (!layer || !shown) return null;
  const own = layer.width !== null && layer.width !== undefined;
  return (
    <fieldset className="mb-3 border-b border-faint pb-3">
      <legend className="font-bold">
        {shown.name}{" "}
        <span className="font-normal">
          <Size of={shown.place.width} bare /> by <Size of={shown.place.height} />
        </span>
      </legend>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        {own ? (
          <>
            <LengthField label={`${shown.name}: width`} at={`${at}.width`} />
            <LengthField label={`${shown.name}: height`} at={`${at}.height`} />
            <LengthField label="Right of the middle" at={`${at}.right`} />
            <LengthField label="Below the middle" at={`${at}.down`} />
            <Button
              kind="quiet"
              onClick={() =>
                void change((now) => setAt(setAt(now, `${at}.width`, null), `${at}.height`, null)).catch(
                  () => undefined,
                )
              }
            >
              By what shows
            </Button>
          </>
        ) : (
          <>
            <LengthField label={`${shown.name}: shows each side`} at={`${at}.reveal`} />
            <Button
              kind="quiet"
              onClick={() =>
                void change((now) =>
                  setAt(setAt(now, `${at}.width`, shown.place.width.exact), `${at}.height`, shown.place.height.exact),
                ).catch(() => undefined)
              }
            >
              A size of its own
            </Button>
          </>
        )}
        <StockChoice at={`${at}.stock`} value={layer.stock} {...(at === "panel" && { none: "the stamped paper" })} />
        <LengthField label="Foam beneath" at={`${at}.foam`} metric />
        {layer.foam !== LAYER.foam && <LengthField label="Foam smaller by" at={`${at}.foam_less`} />}
        {children}
      </div>
    </fieldset>
  );
}
