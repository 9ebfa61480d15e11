import { Radio, RadioGroup } from "@headlessui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import {
  drawerQueries,
  pieceQueries,
  type Ramp,
  type Region,
  type Swatch,
  type Trade,
  type Wish,
  nameOf,
} from "@/shared/api";
import { Button, Choice, RampChips, StepBars, swatchStyle } from "@/shared/ui";
import { Accents } from "./Accents";
import { useSetRamp, useSwapSwatch } from "../api";
import { usePiece } from "../bench";
import { Counterparts } from "./Counterparts";
import { GoTos } from "./GoTos";
import { MissingPen } from "./MissingPen";
import { StrengthField } from "./StrengthField";
import { SwatchPicker } from "./SwatchPicker";

function nameOfHand(regions: Region[]): string {
  const first = regions[0];
  if (!first || regions.length === 1) return first?.name ?? "";
  const oneThing = first.thing && regions.every((region) => region.thing === first.thing);
  return oneThing ? `${first.thing} (${regions.length})` : `${regions.length} regions in hand`;
}

/** Colours for the regions in hand: a wish, ramps from the drawer for it, and the ramp changed by hand. */
export function RampEditor({ regions, trade }: { regions: Region[]; trade: Trade }) {
  const piece = usePiece();
  const first = regions[0] as Region;
  const labels = regions.map((region) => region.label);
  const [wish, setWish] = useState<Wish>({
    wish_hex: first.wish_hex ?? middle(first.coats[0]?.ramp)?.hex ?? "#6f9e4c",
    shades: first.shades,
    shade_hue: "keep",
    meant: "middle",
    medium: "",
    among: "",
  });
  // Only where fewest pens are wished does it matter which are taken up already.
  const atHand = wish.among === "pens" ? piece.version : 0;
  const proposals = useQuery(
    pieceQueries.proposals(piece.id, piece.colours.medium, piece.colours.drawer, wish, atHand),
  );
  const drawer = useQuery({
    ...drawerQueries.detail(piece.colours.drawer ?? 0),
    enabled: piece.colours.drawer !== null,
  }).data;
  const setRamp = useSetRamp(piece.id);
  const swapSwatch = useSwapSwatch(piece.id);
  const { medium } = piece.colours;
  const current = first.coats.find((coat) => coat.medium === medium)?.ramp ?? null;
  const beneath = first.coats.filter((coat) => coat.medium !== medium);
  const [over, setOver] = useState(true);

  function lay({ swatches, bare_hex }: Ramp) {
    setRamp.mutate({
      labels,
      codes: swatches.map((swatch) => swatch.code),
      to_paper: bare_hex !== null,
      wish_hex: wish.wish_hex,
      by_hand: false,
      medium,
      over: over && beneath.length > 0,
    });
  }

  function drawOut(swatch: Swatch) {
    const codes = [swatch.pen_code];
    const drawn_out = Math.max(wish.shades, 2);
    setRamp.mutate({
      labels,
      codes,
      drawn_out,
      wish_hex: wish.wish_hex,
      by_hand: true,
      medium,
      over: beneath.length > 0,
    });
  }

  function swap(place: number, other: { code?: string; strength?: number }) {
    swapSwatch.mutate({ labels, place, ...other, wish_hex: wish.wish_hex, medium, over: beneath.length > 0 });
  }

  const least = trade.media.find((one) => one.code === medium)?.least_strength ?? null;
  const darkest = current?.swatches.at(-1);
  const chosenKey = current ? keyOf(current) : "";
  return (
    <div className="mb-3 rounded bg-faint p-3">
      <p className="mb-2 font-bold">{nameOfHand(regions)}</p>
      {beneath.length > 0 && (
        <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
          {beneath.map((coat) => (
            <span key={coat.medium} className="flex items-center gap-2">
              {nameOf(trade.media, coat.medium)}, {coat.school}
              <span className="w-28">
                <RampChips swatches={coat.ramp.swatches} bare={coat.ramp.bare_hex} small />
              </span>
              <Button
                kind="quiet"
                aria-label={`Take the ${nameOf(trade.media, coat.medium).toLowerCase()} off`}
                onClick={() => setRamp.mutate({ labels, codes: [], by_hand: false, medium: coat.medium })}
              >
                Take off
              </Button>
            </span>
          ))}
          {!current && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-ink"
                checked={over}
                onChange={(event) => setOver(event.target.checked)}
              />
              Over what is there, not instead of it
            </label>
          )}
        </div>
      )}
      <div className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex items-center gap-2">
          Wished colour
          <input
            type="color"
            className="h-8 w-12 rounded border border-soft bg-sheet"
            value={wish.wish_hex}
            onChange={(event) => setWish({ ...wish, wish_hex: event.target.value })}
          />
        </label>
        <Choice
          label="Stands"
          value={wish.meant}
          options={trade.meant}
          onKeep={(meant) => setWish({ ...wish, meant })}
        />
        <div role="group" aria-label="Number of shades" className="flex items-center gap-1">
          <span className="mr-1">Shades</span>
          {[1, 2, 3, 4, 5].map((count) => (
            <button
              key={count}
              type="button"
              aria-pressed={wish.shades === count}
              onClick={() => setWish({ ...wish, shades: count })}
              className="size-8 rounded border border-line bg-sheet hover:border-ink aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-sheet"
            >
              {count}
            </button>
          ))}
        </div>
        <Choice
          label="Shade"
          value={wish.shade_hue}
          options={trade.shade_hues}
          onKeep={(shade_hue) => setWish({ ...wish, shade_hue })}
        />
        <Choice label="From" value={wish.among} options={trade.among} onKeep={(among) => setWish({ ...wish, among })} />
      </div>
      {proposals.isError && <p role="alert">{proposals.error.message}</p>}
      {proposals.data?.length === 0 && (
        <p>
          {wish.among === "family" ? "No family of the drawer" : "The drawer"} has{" "}
          {wish.among === "family" ? "" : "no "}
          {wish.shades} shades that fall strictly from light to dark. Try fewer shades.
        </p>
      )}
      {!proposals.data && !proposals.isError && (
        <p role="status" className="text-soft">
          Looking through the drawer …
        </p>
      )}
      {proposals.data && proposals.data.length > 0 && (
        <RadioGroup
          value={chosenKey}
          onChange={(key) => {
            const ramp = proposals.data.find((one) => keyOf(one) === key);
            if (ramp) lay(ramp);
          }}
          aria-label="Ramps from the drawer"
          className={`flex flex-col gap-1 ${proposals.isPlaceholderData ? "opacity-60" : ""}`}
        >
          {proposals.data.map((ramp, index) => (
            // By place: whoever stands on one with the keyboard keeps the focus when other ramps come in.
            <Radio
              key={index}
              value={keyOf(ramp)}
              aria-label={`${ramp.swatches.map((swatch) => swatch.name).join(", ")}: ${ramp.explanation}`}
              className="grid cursor-pointer grid-cols-[1.2rem_10rem_1fr_auto] items-center gap-2 rounded border border-line bg-sheet px-2 py-1.5 data-checked:border-ink data-checked:shadow-[inset_0_0_0_1px_#161616] data-focus:outline-3"
            >
              <span className="text-soft">{index + 1}</span>
              <RampChips swatches={ramp.swatches} bare={ramp.bare_hex} />
              <span className="text-[13px] leading-tight">{ramp.warnings[0] ?? ramp.explanation}</span>
              <StepBars steps={ramp.steps} />
            </Radio>
          ))}
        </RadioGroup>
      )}
      <MissingPen wish={wish} />
      <GoTos regions={regions} />
      <Accents regions={regions} trade={trade} />
      {current && (
        <div className="mt-3 border-t border-line pt-2">
          <p className="mb-1 text-[13px] text-soft">
            {first.by_hand ? "Changed by hand" : "As proposed"}; choose a chip to put another swatch there.
          </p>
          <div className="flex gap-1">
            {current.swatches.map((swatch, place) => (
              <span key={swatch.code} className="flex min-w-0 grow basis-0 flex-col">
                <SwatchPicker
                  swatch={swatch}
                  drawer={drawer?.swatches ?? []}
                  onPick={({ code }) => swap(place, { code, strength: 100 })}
                />
                {least !== null && (
                  <StrengthField swatch={swatch} least={least} onKeep={(strength) => swap(place, { strength })} />
                )}
              </span>
            ))}
          </div>
          {least !== null && darkest && (
            <Button
              kind="quiet"
              className="mt-2 text-[13px]"
              title="The darkest swatch alone, paler from zone to zone, until only paper is left"
              onClick={() => drawOut(darkest)}
            >
              Draw {darkest.pen} out to bare paper
            </Button>
          )}
          <p className="mt-1 text-[13px]">{current.explanation}</p>
          {current.warnings.map((warning) => (
            <p key={warning} className="mt-1 rounded bg-ink px-2 py-1 text-[13px] text-sheet">
              {warning}
            </p>
          ))}
          {current.in_betweens.map((mix) => (
            <p key={mix.pale} className="mt-1 flex items-center gap-2 text-[13px]">
              <span
                className="size-5 shrink-0 rounded-sm border border-line bg-(--swatch)"
                style={swatchStyle(mix.hex)}
                aria-hidden
              />
              Touch the tip of {mix.pale} to {mix.dark}: for a few strokes it lays this in-between.
            </p>
          ))}
          <Counterparts ramp={current} />
          <Button
            kind="quiet"
            className="mt-2 text-[13px]"
            onClick={() => setRamp.mutate({ labels, codes: [], wish_hex: wish.wish_hex, by_hand: false, medium })}
          >
            Take the colours off
          </Button>
        </div>
      )}
    </div>
  );
}

function keyOf(ramp: Ramp): string {
  return [...ramp.swatches.map((swatch) => swatch.code), ...(ramp.bare_hex ? ["paper"] : [])].join("|");
}

function middle(ramp: Ramp | null | undefined): Swatch | undefined {
  return ramp?.swatches[Math.floor((ramp.swatches.length - 1) / 2)];
}
