import { useState, type FormEvent } from "react";

import { useQuery } from "@tanstack/react-query";

import { Problem, tradeQuery, type DrawerDetail, type SwatchRecord } from "@/shared/api";
import { Button, Refusal } from "@/shared/ui";
import { useAddSwatch, useChangeSwatch, type SwatchChanges } from "./api";

type Further = "two_coats" | "diluted" | "light_pressure" | "firm_pressure";

/** Which further measurements each medium has. */
const FURTHER: Record<string, [Further, string][]> = {
  marker: [["two_coats", "Two coats"]],
  watercolour: [
    ["two_coats", "Two coats"],
    ["diluted", "Diluted"],
  ],
  soluble: [["diluted", "Diluted"]],
  inkpad: [["two_coats", "Two coats"]],
  pencil: [
    ["light_pressure", "Light pressure"],
    ["firm_pressure", "Firm pressure"],
  ],
};

/** Adding or editing a swatch by typing alone: Tab from field to field, Enter keeps. */
export function SwatchForm({
  drawer,
  swatch,
  onDone,
  onCancel,
}: {
  drawer: DrawerDetail;
  swatch?: SwatchRecord;
  onDone: (code: string) => void;
  onCancel: () => void;
}) {
  const add = useAddSwatch(drawer.id);
  const change = useChangeSwatch(drawer.id);
  const measured = useQuery(tradeQuery).data?.measured ?? [];
  const further = FURTHER[drawer.medium] ?? [];
  const [text, setText] = useState<Record<string, string>>({
    name: swatch?.name ?? "",
    code: swatch?.code ?? "",
    family: swatch?.family ?? "",
    maker: swatch?.maker ?? "",
    lab: swatch ? swatch.lab.join(" ") : "",
    measured: swatch?.measured ?? "cap",
    white: "D65",
    opacity: swatch?.opacity == null ? "" : String(Math.round(swatch.opacity * 100)),
    ...Object.fromEntries(further.map(([field]) => [field, swatch?.[field]?.join(" ") ?? ""])),
  });
  const [fault, setFault] = useState("");
  const set = (field: string) => (event: { target: { value: string } }) =>
    setText({ ...text, [field]: event.target.value });

  function submit(event: FormEvent) {
    event.preventDefault();
    const numbers: SwatchChanges = {};
    const hex = /^#?([0-9a-f]{6})$/i.exec((text.lab ?? "").trim())?.[1];
    if (hex) numbers.hex = `#${hex}`;
    for (const field of ["lab", ...further.map(([name]) => name)] as const) {
      if (field === "lab" && hex) continue;
      const found = readLab(text[field] ?? "");
      if (found === "wrong" || (field === "lab" && !found))
        return setFault(
          `${field === "lab" ? "The colour" : "A further measurement"} is three numbers L* a* b*, like 62.5 31 -12, or #c2587f.`,
        );
      if (field === "lab") numbers.lab = found as number[];
      else numbers[field] = found;
    }
    const opacity = (text.opacity ?? "").trim().replace(/%$/, "");
    if (opacity && !(Number(opacity) >= 0 && Number(opacity) <= 100))
      return setFault("The opacity is a share in percent, 0 to 100, or nothing for the usual one.");
    const values: SwatchChanges = {
      ...numbers,
      white: text.white as "D65" | "D50",
      opacity: opacity ? Number(opacity) / 100 : null,
      name: (text.name ?? "").trim(),
      code: (text.code ?? "").trim() || slug(text.name ?? ""),
      family: (text.family ?? "").trim(),
      maker: (text.maker ?? "").trim(),
      measured: text.measured as "cap" | "chart" | "reader",
    };
    if (!values.name) return setFault("Give it a name.");
    setFault("");
    const after = {
      onSuccess: () => onDone(values.code ?? ""),
      onError: (error: Error) =>
        setFault(error instanceof Problem ? (Object.values(error.fields)[0] ?? error.message) : error.message),
    };
    if (swatch) change.mutate({ swatch: swatch.id, changes: values }, after);
    else add.mutate(values, after);
  }

  return (
    <form onSubmit={submit} noValidate className="grid grid-cols-2 gap-3">
      <Field label="Name" value={text.name} onChange={set("name")} autoFocus wide />
      <Field label="Code" value={text.code} onChange={set("code")} hint="your own" />
      <Field label="Family" value={text.family} onChange={set("family")} />
      <Field label="L* a* b* (or #rrggbb)" value={text.lab} onChange={set("lab")} />
      <Field label="Maker" value={text.maker} onChange={set("maker")} />
      {further.map(([field, name]) => (
        <Field key={field} label={`${name}, L* a* b*`} value={text[field]} onChange={set(field)} hint="if measured" />
      ))}
      <Field label="Opacity, %" value={text.opacity} onChange={set("opacity")} hint="as usual" />
      <label className="block">
        White point of L* a* b*
        <select className="field mt-1" value={text.white} onChange={set("white")}>
          <option value="D65">D65, daylight</option>
          <option value="D50">D50, many readers</option>
        </select>
      </label>
      <label className="block">
        Measured
        <select className="field mt-1" value={text.measured} onChange={set("measured")}>
          {measured.map((one) => (
            <option key={one.code} value={one.code}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <div className="col-span-2">
        <Refusal error={fault} />
      </div>
      <div className="col-span-2 flex justify-end gap-3">
        <Button onClick={onCancel}>Cancel</Button>
        <Button type="submit" kind="main" busy={add.isPending || change.isPending}>
          Keep
        </Button>
      </div>
    </form>
  );
}

function Field({
  label,
  value,
  onChange,
  hint,
  wide,
  autoFocus,
}: {
  label: string;
  value: string | undefined;
  onChange: (event: { target: { value: string } }) => void;
  hint?: string;
  wide?: boolean;
  autoFocus?: boolean;
}) {
  return (
    <label className={wide ? "col-span-2 block" : "block"}>
      {label}
      <input className="field mt-1" value={value ?? ""} onChange={onChange} placeholder={hint} autoFocus={autoFocus} />
    </label>
  );
}

/** Three numbers, or nothing (null). */
function readLab(text: string): number[] | null | "wrong" {
  if (!text.trim()) return null;
  const numbers = text
    .trim()
    .replace(/,(?=\d)/g, ".")
    .split(/[\s;]+/)
    .map(Number);
  return numbers.length === 3 && numbers.every(Number.isFinite) ? numbers : "wrong";
}

function slug(name: string): string {
  return name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 40);
}
