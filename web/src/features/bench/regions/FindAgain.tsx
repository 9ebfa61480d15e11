import { Button, LineReading, tell, Tick, useDraft } from "@/shared/ui";
import { useFindAgain } from "../api";
import { useBenchAddress, usePiece } from "../bench";

/** What was taken as ink, and looking for the regions once more with more or less of it. */
export function FindAgain() {
  const piece = usePiece();
  const { view, go } = useBenchAddress();
  const findAgain = useFindAgain(piece.id);
  const [percent, setPercent] = useDraft(Math.round(piece.regions.sensitivity * 100));
  const [gap, setGap] = useDraft(piece.regions.gap_mm);

  function find() {
    findAgain.mutate(
      { sensitivity: percent / 100, gap_mm: gap },
      { onSuccess: (after) => tell(`${after.undo ?? "The regions are as they were"}.`) },
    );
  }

  return (
    <fieldset className="rounded bg-faint p-3">
      <legend className="contents font-bold">Reading the stamped line</legend>
      <Tick className="my-1" checked={view === "ink"} onKeep={(only) => go({ view: only ? "ink" : "line" })}>
        Show only what was taken as ink
      </Tick>
      <LineReading
        reading={{ percent, gapMm: gap }}
        onKeep={(reading) => {
          setPercent(reading.percent);
          setGap(reading.gapMm);
        }}
      />
      <p className="my-1 text-[13px] text-soft">
        More ink for a pale line, less for a smudged one. Names, colours, joins and barriers are carried over where they
        still fit.
      </p>
      <Button
        busy={findAgain.isPending}
        disabled={percent === Math.round(piece.regions.sensitivity * 100) && gap === piece.regions.gap_mm}
        onClick={find}
      >
        Find the regions again
      </Button>
    </fieldset>
  );
}
