import { LIMITS } from "@/shared/api";
import { Button, Tick } from "@/shared/ui";
import { useCard } from "./card";
import { LengthField } from "./LengthField";
import { Part } from "./Part";
import { setAt } from "./spec";
import { StockChoice } from "./StockChoice";
import { TextField } from "./TextField";

const FIRST = { text: "", panel: true, reveal: "1/8 in", stock: "" };

/** What stands inside the card, and what it is written on. */
export function InsideForm() {
  const { spec, change } = useCard();
  const one = spec.inside;
  return (
    <Part
      name="Inside"
      action={
        <Button
          kind="quiet"
          onClick={() => void change((now) => ({ ...now, inside: one ? null : FIRST })).catch(() => undefined)}
        >
          {one ? "Leave it empty" : "Write inside"}
        </Button>
      }
    >
      {one && (
        <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
          <TextField
            label="Words inside"
            lines={3}
            className="w-72"
            value={one.text}
            maxLength={LIMITS.InsideRequest.text.maxLength}
            onKeep={(text) => change((now) => setAt(now, "inside.text", text))}
          />
          <Tick checked={one.panel} onKeep={(on) => change((now) => setAt(now, "inside.panel", on))}>
            On a panel of its own
          </Tick>
          {one.panel && (
            <>
              <LengthField label="Panel inside: shows each side" at="inside.reveal" />
              <StockChoice at="inside.stock" value={one.stock} />
            </>
          )}
        </div>
      )}
    </Part>
  );
}
