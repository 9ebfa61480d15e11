import { Slider } from "./Slider";

export type Reading = { percent: number; gapMm: number };

/** How the stamped line is read: how readily grey is taken for ink, and how wide a gap in a line is closed. */
export function LineReading({ reading, onKeep }: { reading: Reading; onKeep: (reading: Reading) => void }) {
  const { percent, gapMm } = reading;
  return (
    <>
      <Slider
        label="Ink"
        unit=""
        min={-100}
        max={100}
        step={10}
        value={percent}
        onKeep={(value) => onKeep({ ...reading, percent: value })}
      />
      <Slider
        label="Close gaps up to"
        unit=" mm"
        min={0.2}
        max={3}
        step={0.1}
        value={gapMm}
        onKeep={(value) => onKeep({ ...reading, gapMm: value })}
      />
    </>
  );
}
