import { matesOf, type Region } from "@/shared/api";

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
