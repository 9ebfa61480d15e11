import type { SwatchRecord } from "@/shared/api";

/** `own`: a family of the drawer's own, else only a hue. Lanes are places side by side, `width` how many there are. */
export type Thread = {
  name: string;
  own: boolean;
  swatches: SwatchRecord[];
  lanes: number[];
  width: number;
  light: number;
  dark: number;
};

/** Chips nearer than this in lightness would hide each other and stand side by side. */
const APART = 3.2;
const NEUTRAL_CHROMA = 8;
/** Where the circle of hues is cut open: between plum and rose. */
const CUT_DEG = 345;
const HOW_DEEP = /^(very dark|dark|mid|light|pale)( dull)? /;

/** The columns of the map in the order of hue, greys last: families, and by their colour word what belongs to none. */
export function threads(swatches: SwatchRecord[]): Thread[] {
  const groups = new Map<string, SwatchRecord[]>();
  for (const swatch of swatches) {
    const key = swatch.family ? `family ${swatch.family}` : `hue ${hueWord(swatch)}`;
    groups.set(key, [...(groups.get(key) ?? []), swatch]);
  }
  return [...groups.values()].map(thread).sort((one, other) => hue(one.swatches) - hue(other.swatches));
}

function hueWord(swatch: SwatchRecord): string {
  return swatch.words.replace(HOW_DEEP, "");
}

function thread(members: SwatchRecord[]): Thread {
  const swatches = members.toSorted((one, other) => lightness(other) - lightness(one));
  const [first] = swatches;
  const ends: number[] = [];
  const lanes = swatches.map((swatch) => {
    const free = ends.findIndex((end) => end - lightness(swatch) >= APART);
    const lane = free < 0 ? ends.length : free;
    ends[lane] = lightness(swatch);
    return lane;
  });
  const name = first ? first.family || hueWord(first) : "";
  return {
    name,
    own: Boolean(first?.family),
    swatches,
    lanes,
    width: ends.length,
    light: lightness(first),
    dark: lightness(swatches.at(-1)),
  };
}

function hue(swatches: SwatchRecord[]): number {
  const [a, b] = [1, 2].map(
    (axis) => swatches.reduce((sum, swatch) => sum + (swatch.lab[axis] ?? 0), 0) / swatches.length,
  );
  const chroma = Math.hypot(a ?? 0, b ?? 0);
  return chroma < NEUTRAL_CHROMA ? 360 : ((Math.atan2(b ?? 0, a ?? 0) * 180) / Math.PI + 720 - CUT_DEG) % 360;
}

function lightness(swatch: SwatchRecord | undefined): number {
  return swatch?.lab[0] ?? 0;
}
