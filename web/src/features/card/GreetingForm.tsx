import { LIMITS, type Greeting } from "@/shared/api";
import { Button, Size, Tick } from "@/shared/ui";
import { useCard } from "./card";
import { ColourField } from "./ColourField";
import { LengthField } from "./LengthField";
import { Part } from "./Part";
import { setAt, snapped } from "./spec";
import { StockChoice } from "./StockChoice";
import { TextField } from "./TextField";

const FIRST: Greeting = {
  text: "With love",
  width: "3 in",
  height: "5/8 in",
  x: "5/8 in",
  y: "4 1/2 in",
  strip: true,
  embossed: false,
  stock: "",
  colour: "#333333",
  foam: "0 in",
};

/** The greeting: its words, its room and its place, and what it covers there. */
export function GreetingForm() {
  const { spec, laid, change } = useCard();
  const one = spec.greeting;
  if (!one)
    return (
      <Part
        name="Greeting"
        action={
          <Button
            kind="quiet"
            onClick={() => void change((now) => ({ ...now, greeting: placed(laid) })).catch(() => undefined)}
          >
            Add a greeting
          </Button>
        }
      />
    );
  const covered = laid.covered.filter(({ share }) => share >= 0.02);
  return (
    <Part
      name="Greeting"
      action={
        <Button kind="quiet" onClick={() => void change((now) => ({ ...now, greeting: null })).catch(() => undefined)}>
          Leave it off
        </Button>
      }
    >
      <div className="flex flex-wrap items-end gap-x-4 gap-y-2">
        <TextField
          label="Words"
          value={one.text}
          maxLength={LIMITS.GreetingRequest.text.maxLength}
          onKeep={(text) => change((now) => setAt(now, "greeting.text", text))}
        />
        <LengthField label="Greeting: width" at="greeting.width" />
        <LengthField label="Greeting: height" at="greeting.height" />
        <LengthField label="From the left" at="greeting.x" />
        <LengthField label="From the top" at="greeting.y" />
        <ColourField label="Its ink" at="greeting.colour" value={one.colour} />
        <Tick checked={one.strip} onKeep={(on) => change((now) => setAt(now, "greeting.strip", on))}>
          On a strip of its own
        </Tick>
        <Tick checked={one.embossed} onKeep={(on) => change((now) => setAt(now, "greeting.embossed", on))}>
          Embossed with heat
        </Tick>
        {one.strip && (
          <>
            <StockChoice at="greeting.stock" value={one.stock} />
            <LengthField label="Foam beneath it" at="greeting.foam" metric />
          </>
        )}
      </div>
      <p className="mt-2 text-[13px] text-soft">
        {laid.greeting && (
          <>
            <Size of={laid.greeting.place.width} bare /> by <Size of={laid.greeting.place.height} />.{" "}
          </>
        )}
        {covered.length > 0
          ? `It covers ${covered
              .slice(0, 5)
              .map(({ name, share }) => `${name} (${Math.round(share * 100)} %)`)
              .join(", ")}.`
          : "It covers nothing of the picture."}
      </p>
    </Part>
  );
}

/** A first greeting, in the middle near the lower edge. */
function placed(laid: ReturnType<typeof useCard>["laid"]): Greeting {
  const front = laid.layers[0]?.place;
  if (!front) return FIRST;
  const width = Math.min(76.2, front.width.at_mm * 0.7);
  return {
    ...FIRST,
    width: snapped(width, "in"),
    x: snapped((front.width.at_mm - width) / 2, "in"),
    y: snapped(front.height.at_mm * 0.98 - 15.9 - 9, "in"),
  };
}
