import { useQuery } from "@tanstack/react-query";

import { LIMITS, tradeQuery, type Stock } from "@/shared/api";
import { Button, useUnit } from "@/shared/ui";
import { useCard } from "./card";
import { ColourField } from "./ColourField";
import { LengthField } from "./LengthField";
import { NumberField } from "./NumberField";
import { Part } from "./Part";
import { PartChoice } from "./PartChoice";
import { freshName, newStock, renamed, setAt, withoutStock } from "./spec";
import { TextField } from "./TextField";

/** The sheets at hand: what the layers are cut from. */
export function PapersForm() {
  const { spec, change } = useCard();
  const { unit } = useUnit();
  return (
    <Part
      name="Sheets at hand"
      action={
        <Button
          kind="quiet"
          onClick={() =>
            void change((now) => ({ ...now, stock: [...now.stock, newStock(freshName(now, "Paper"), unit)] })).catch(
              () => undefined,
            )
          }
        >
          Add a paper
        </Button>
      }
    >
      {spec.stock.map((one, place) => (
        <Paper key={place} one={one} place={place} />
      ))}
    </Part>
  );
}

function Paper({ one, place }: { one: Stock; place: number }) {
  const { laid, change } = useCard();
  const trade = useQuery(tradeQuery).data;
  const sheets = trade?.sheets ?? [];
  const known = sheets.find((size) => size.width === one.width && size.height === one.height)?.code ?? "";
  const at = `stock.${place}`;
  return (
    <fieldset className="mb-2 border-b border-faint pb-2">
      <legend className="sr-only">{one.name}</legend>
      <div className="flex flex-wrap items-end gap-x-3 gap-y-1">
        <TextField
          label="Paper's name"
          className="w-28"
          value={one.name}
          maxLength={LIMITS.StockRequest.name.maxLength}
          onKeep={(name) => (name ? change((now) => renamed(now, one.name, name)) : Promise.reject(new Error()))}
        />
        <PartChoice
          label="Sheet"
          value={known}
          options={[...sheets, { code: "", name: "its own size" }]}
          onKeep={(code) => {
            const size = sheets.find((it) => it.code === code);
            if (!size) return;
            return change((now) => setAt(setAt(now, `${at}.width`, size.width), `${at}.height`, size.height));
          }}
        />
        <LengthField label="Sheet: width" at={`${at}.width`} className="w-20" />
        <LengthField label="Sheet: height" at={`${at}.height`} className="w-20" />
        <PartChoice
          label="Grain"
          value={one.grain}
          options={[{ code: "", name: "not known" }, ...(trade?.grains ?? [])]}
          onKeep={(grain) => change((now) => setAt(now, `${at}.grain`, grain))}
        />
        <TextField
          label="Weight"
          className="w-28"
          value={one.gsm ? `${one.gsm} g/m²` : ""}
          maxLength={40}
          onKeep={(weight) => change((now) => setAt(now, `${at}.gsm`, weight || 0))}
        />
        <NumberField label="At hand" at={`${at}.owned`} value={one.owned} />
        <ColourField label="Colour" at={`${at}.colour`} value={one.colour} />
        <Button kind="quiet" onClick={() => void change((now) => withoutStock(now, one.name)).catch(() => undefined)}>
          Take away
        </Button>
      </div>
      <p className="mt-1 text-[13px] text-soft">{laid.weights[place]?.said}</p>
    </fieldset>
  );
}
