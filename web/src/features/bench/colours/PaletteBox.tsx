import { useState } from "react";

import type { PaletteColour } from "@/shared/api";
import { Button, counted, FileButton, RampChips } from "@/shared/ui";
import { usePalette, useSetRamp, useSharePalette, type PaletteWish } from "../api";
import { usePiece, useSelected } from "../bench";

/** Three to six colours from a photo or from the colour wheel, matched to what the drawer holds. */
export function PaletteBox({ schemes }: { schemes: string[] }) {
  const piece = usePiece();
  const selected = useSelected();
  const make = usePalette(piece.id);
  const setRamp = useSetRamp(piece.id);
  const share = useSharePalette(piece.id);
  const [first, setFirst] = useState("#c2587f");
  const [scheme, setScheme] = useState<PaletteWish["scheme"]>("neighbours");
  const [count, setCount] = useState(4);
  const [photo, setPhoto] = useState<File | null>(null);
  const [found, setFound] = useState<PaletteColour[]>([]);
  const [locked, setLocked] = useState<string[]>([]);

  const several = selected.length > 1;
  const open = piece.regions.list.filter((region) => region.coats.length === 0 && !region.left_as_paper).length;

  function look(from: File | null) {
    setPhoto(from);
    make.mutate({ photo: from, first_hex: first, scheme, count, shades: 3, locked }, { onSuccess: setFound });
  }

  return (
    <details className="mb-2 rounded bg-faint px-3 py-2">
      <summary>
        <strong>A palette</strong> from the colour wheel or a photo
      </summary>
      <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-2">
        <label className="flex items-center gap-2">
          From
          <input
            type="color"
            aria-label="First colour"
            className="h-8 w-10 rounded border border-soft bg-sheet"
            value={first}
            onChange={(event) => setFirst(event.target.value)}
          />
        </label>
        <select
          aria-label="Scheme"
          className="rounded border border-soft bg-sheet px-1 py-1"
          value={scheme}
          onChange={(event) => setScheme(event.target.value as PaletteWish["scheme"])}
        >
          {schemes.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
        <label className="flex items-center gap-2">
          Colours
          <select
            className="rounded border border-soft bg-sheet px-1 py-1"
            value={count}
            onChange={(event) => setCount(Number(event.target.value))}
          >
            {[3, 4, 5, 6].map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        </label>
        <Button busy={make.isPending} onClick={() => look(null)}>
          From the wheel
        </Button>
        <FileButton name="Photo for a palette" accept="image/*" onFile={look}>
          {photo ? photo.name : "From a photo"}
        </FileButton>
      </div>
      <ul aria-label="Palette" className="mt-2">
        {found.map((colour) => (
          <li
            key={colour.hex}
            className="grid grid-cols-[1.6rem_minmax(0,1fr)_9rem_auto] items-center gap-2 border-t border-line py-1 text-[13px]"
          >
            <span className="size-6 rounded-full border border-line" style={{ background: colour.hex }} aria-hidden />
            <span>{colour.words}</span>
            {colour.ramp ? <RampChips swatches={colour.ramp.swatches} small /> : <span>no ramp owned</span>}
            <span className="flex gap-2">
              <Button
                kind="quiet"
                aria-pressed={locked.includes(colour.hex)}
                aria-label={`${locked.includes(colour.hex) ? "Unlock" : "Lock"} ${colour.words}`}
                onClick={() =>
                  setLocked(
                    locked.includes(colour.hex) ? locked.filter((one) => one !== colour.hex) : [...locked, colour.hex],
                  )
                }
              >
                {locked.includes(colour.hex) ? "Locked" : "Lock"}
              </Button>
              {colour.ramp && (
                <Button
                  kind="quiet"
                  disabled={selected.length === 0 || setRamp.isPending}
                  title={selected.length === 0 ? "Take a region in hand first" : undefined}
                  aria-label={`Use ${colour.words} here`}
                  onClick={() =>
                    setRamp.mutate({
                      labels: [...selected],
                      codes: colour.ramp?.swatches.map((one) => one.code) ?? [],
                      wish_hex: colour.hex,
                      by_hand: false,
                    })
                  }
                >
                  Use here
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
      {found.length > 0 && (
        <div className="mt-2 flex items-center justify-between gap-3 border-t border-line pt-2">
          <p className="text-[13px] text-soft">
            Touching things get different colours; the quietest colour leads, the strongest is the accent.
          </p>
          <Button
            busy={share.isPending}
            disabled={!several && open === 0}
            title={several || open > 0 ? undefined : "Every region has its colours. Take some in hand to change them."}
            onClick={() => share.mutate({ colours: found.map((one) => one.hex), labels: several ? [...selected] : [] })}
          >
            {several
              ? `Lay it over these ${selected.length}`
              : open > 0
                ? `Lay it over ${counted(open, "open region")}`
                : "No region is open"}
          </Button>
        </div>
      )}
    </details>
  );
}
