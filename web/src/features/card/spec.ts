import type { CardSpec, LaidCard, NamedSize, Stock, Trade } from "@/shared/api";
import type { Unit } from "@/shared/ui";

/** What a spec's part is reached by: "mats.0.reveal". */
export type Path = string;

type Fold = NonNullable<CardSpec["base"]["fold"]>;
type Box = { [key: string]: unknown };

/** The spec with one value set anew. Numbers in the path count in lists. */
export function setAt(spec: CardSpec, path: Path, value: unknown): CardSpec {
  return set(spec, path.split("."), value) as CardSpec;
}

function set(whole: unknown, [key, ...rest]: string[], value: unknown): unknown {
  if (key === undefined) return value;
  if (Array.isArray(whole))
    return (whole as unknown[]).map((one, place) => (place === Number(key) ? set(one, rest, value) : one));
  const box = whole as Box;
  return { ...box, [key]: set(box[key], rest, value) };
}

export const LAYER = {
  reveal: "1/8 in",
  width: null,
  height: null,
  right: "0 in",
  down: "0 in",
  stock: "",
  foam: "0 in",
  foam_less: "1/8 in",
};

const SHEET: Record<Unit, Pick<Stock, "width" | "height">> = {
  in: { width: "8 1/2 in", height: "11 in" },
  cm: { width: "210 mm", height: "297 mm" },
};

/** Sheets of a paper of one's own; more can be said of it later. */
export function newStock(name: string, unit: Unit): Stock {
  return { name, ...SHEET[unit], grain: "", gsm: 0, colour: "#f1f1ef", owned: 0 };
}

/** A first card of a size, lying as the picture lies: a panel with a reveal on its base, nothing more. */
export function firstSpec(size: NamedSize, wide: boolean, unit: Unit): CardSpec {
  return {
    base: {
      width: wide ? size.height : size.width,
      height: wide ? size.width : size.height,
      fold: wide ? "top" : "side",
      shorter: "0 in",
      stock: "",
      with_grain: true,
    },
    mats: [],
    panel: { ...LAYER, crop_x: null, crop_y: null, trim: "1/4 in" },
    cutouts: [],
    greeting: null,
    inside: null,
    pull_out: false,
    envelope: "",
    stock: [newStock("Card", unit)],
    making: [],
    cards: 1,
  };
}

/** The card lying the other way; a fold that has another name then says so. */
export function turned(spec: CardSpec, folds: Trade["folds"]): CardSpec {
  const { width, height } = spec.base;
  const fold = (folds.find((one) => one.code === spec.base.fold)?.turned ?? spec.base.fold) as Fold;
  return { ...spec, base: { ...spec.base, width: height, height: width, fold } };
}

/** The card folded otherwise: only one that is folded once keeps a shorter front. */
export function folded(spec: CardSpec, fold: Fold, once: boolean): CardSpec {
  return { ...spec, base: { ...spec.base, fold, shorter: once ? spec.base.shorter : "0 in" } };
}

/** Which named size the base has, however it lies. */
export function nameOfSize(spec: CardSpec, sizes: NamedSize[]): string {
  const { width, height } = spec.base;
  const found = sizes.find(
    (one) => (one.width === width && one.height === height) || (one.width === height && one.height === width),
  );
  return found?.code ?? "";
}

/** What was typed, with the unit of its field where none was. */
export function withUnit(text: string, unit: Unit | "mm"): string {
  return /[a-z"″”']/i.test(text) ? text : `${text} ${unit}`;
}

/** A place in mm as the hand puts it: to a sixteenth of an inch, or to half a millimetre. */
export function snapped(mm: number, unit: Unit): string {
  if (unit === "in") {
    const sixteenths = Math.round((mm / 25.4) * 16);
    return `${sixteenths < 0 ? "-" : ""}${Math.abs(sixteenths)}/16 in`;
  }
  return `${Math.round(mm * 2) / 2} mm`;
}

/** What an arrow key moves something by, in mm. */
export const NUDGE_MM: Record<Unit, number> = { in: 25.4 / 16, cm: 0.5 };

/** Steps of making with one of them earlier (-1) or later (+1); the same ones where it cannot go. */
export function moved(codes: string[], code: string, by: -1 | 1): string[] {
  const place = codes.indexOf(code);
  const other = place + by;
  if (place < 0 || other < 0 || other >= codes.length) return codes;
  const next = [...codes];
  [next[place], next[other]] = [next[other] as string, next[place] as string];
  return next;
}

/** A name that no sheet has yet. */
export function freshName(spec: CardSpec, name: string): string {
  const taken = new Set(spec.stock.map((one) => one.name));
  for (let number = 1; ; number += 1) {
    const tried = number === 1 ? name : `${name} ${number}`;
    if (!taken.has(tried)) return tried;
  }
}

/** The spec with a paper called otherwise, wherever it is named. */
export function renamed(spec: CardSpec, from: string, to: string): CardSpec {
  const named = <Part extends { stock: string } | null | undefined>(part: Part): Part =>
    part && part.stock === from ? { ...part, stock: to } : part;
  return {
    ...spec,
    stock: spec.stock.map((one) => (one.name === from ? { ...one, name: to } : one)),
    base: named(spec.base),
    mats: spec.mats.map(named),
    panel: named(spec.panel),
    greeting: named(spec.greeting),
    inside: named(spec.inside),
  };
}

/** The spec without a paper; what lay on it names none. */
export function withoutStock(spec: CardSpec, name: string): CardSpec {
  const bare = renamed(spec, name, "");
  return { ...bare, stock: spec.stock.filter((one) => one.name !== name) };
}

/** Lengths of the spec as they are read, by path. */
export function sizesOf(laid: LaidCard): ReadonlyMap<Path, LaidCard["sizes"][number]["length"]> {
  return new Map(laid.sizes.map((one) => [one.at, one.length]));
}
