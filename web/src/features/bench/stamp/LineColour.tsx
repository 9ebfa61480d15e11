import type { Trade } from "@/shared/api";
import { Button, Choice, Colour } from "@/shared/ui";
import { useDescribeStamp } from "../api";
import { usePiece } from "../bench";

const BLACK = "#1a181a";

/** What the line looks like on the card, where it is not as in the scan: a powder's colour, or another ink's. */
export function LineColour({ trade }: { trade: Trade }) {
  const { id, stamp } = usePiece();
  const describe = useDescribeStamp(id);
  const raised = trade.inks.find((ink) => ink.code === stamp.outline_ink)?.raised ?? false;
  const covered = raised && stamp.powder !== "" && stamp.powder !== "clear";
  return (
    <div className="flex flex-wrap items-end gap-3">
      {raised && (
        <Choice
          label="Embossed with"
          value={stamp.powder}
          options={[{ code: "", name: "As in the scan" }, ...trade.powders]}
          onKeep={(powder) => describe.mutateAsync({ powder })}
          below
        />
      )}
      {!covered && stamp.ink_hex && (
        <Colour
          label="Colour of the ink"
          value={stamp.ink_hex}
          onKeep={(ink_hex) => describe.mutateAsync({ ink_hex })}
        />
      )}
      {!covered && (
        <Button kind="quiet" onClick={() => describe.mutate({ ink_hex: stamp.ink_hex ? null : BLACK })}>
          {stamp.ink_hex ? "As in the scan" : "Other colour than in the scan"}
        </Button>
      )}
      {stamp.line_advice.map((advice) => (
        <p key={advice.why} role="note" className="basis-full border-l-4 border-ink pl-2 text-[13px]">
          {advice.why} {advice.instead}
        </p>
      ))}
    </div>
  );
}
