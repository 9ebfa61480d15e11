import type { Region } from "./types";

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
