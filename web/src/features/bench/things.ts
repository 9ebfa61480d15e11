import type { Region } from "@/shared/api";

/** What a colourist sees as one: regions that get one ramp at first go. A region of no thing is one by itself. */
export type Thing = { name: string; regions: Region[] };

/** All things, each where the first of its regions stands. */
export function thingsOf(regions: readonly Region[]): Thing[] {
  const named = new Map<string, Thing>();
  const things: Thing[] = [];
  for (const region of regions) {
    const known = region.thing ? named.get(region.thing) : undefined;
    if (known) known.regions.push(region);
    else {
      const thing = { name: region.thing || region.name, regions: [region] };
      if (region.thing) named.set(region.thing, thing);
      things.push(thing);
    }
  }
  // The last one left of a thing stands for itself, under its own name.
  for (const thing of things) if (thing.regions.length === 1) thing.name = thing.regions[0]?.name ?? thing.name;
  return things;
}

/** Labels of the whole thing that a region belongs to, itself among them. */
export function matesOf(regions: readonly Region[], label: number): number[] {
  const thing = regions.find((region) => region.label === label)?.thing;
  return thing ? regions.filter((region) => region.thing === thing).map((region) => region.label) : [label];
}

/**
 * What is in hand after a click on a region: its whole thing, and with a second click the one region in it. `add`
 * keeps the others, and lets go of the thing if it was in hand already.
 */
export function pickedAfter(
  picked: readonly number[],
  label: number,
  mates: readonly number[],
  add: boolean,
): readonly number[] {
  const whole = mates.every((mate) => picked.includes(mate));
  if (add) return whole ? picked.filter((other) => !mates.includes(other)) : [...new Set([...picked, ...mates])];
  if (picked.length === 1 && picked[0] === label) return [];
  return whole && picked.length === mates.length ? [label] : mates;
}

/** Back up: from a region to its thing, from a thing to nothing. */
export function pickedAbove(picked: readonly number[], regions: readonly Region[]): readonly number[] {
  const first = picked[0];
  if (first === undefined) return [];
  const mates = matesOf(regions, first);
  return picked.length < mates.length && picked.every((label) => mates.includes(label)) ? mates : [];
}
