import { useState } from "react";

import type { Trade } from "@/shared/api";
import { Button, Choice, toNumbers } from "@/shared/ui";
import { useCutBands } from "../api";
import { usePiece } from "../bench";

/** Bands of given widths, by tape. */
export function Bands({ label, sides }: { label: number; sides: Trade["sides"] }) {
  const piece = usePiece();
  const cut = useCutBands(piece.id);
  const [widths, setWidths] = useState("15, 15, 15");
  const [gap, setGap] = useState("3");
  const [side, setSide] = useState("0");
  const numbers = toNumbers(widths);
  const [gapMm = NaN, ...more] = toNumbers(gap);
  const sound = numbers.length > 1 && numbers.every((one) => one > 0) && gapMm >= 0 && more.length === 0;
  return (
    <details>
      <summary>Bands by tape</summary>
      <form
        className="mt-1 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (sound) cut.mutate({ label, widths_mm: numbers, gap_mm: gapMm, from_deg: Number(side) });
        }}
      >
        <label className="flex flex-col">
          Widths in mm
          <input className="field mt-1 w-36" value={widths} onChange={(event) => setWidths(event.target.value)} />
        </label>
        <label className="flex flex-col">
          Tape, mm
          <input className="field mt-1 w-16" value={gap} onChange={(event) => setGap(event.target.value)} />
        </label>
        <Choice label="From" value={side} options={sides} onKeep={setSide} below />
        <Button type="submit" busy={cut.isPending} disabled={!sound}>
          Cut into bands
        </Button>
      </form>
    </details>
  );
}
