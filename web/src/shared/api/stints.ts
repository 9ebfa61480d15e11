import type { Pass, Plan } from "./types";

/** Neighbouring passes with one swatch, on one thing, laid in one way: one line of the plan. */
export type Stint = { passes: Pass[]; first: Pass; seconds: number; on: string; numbers: string };

export function stintsOf(plan: Plan): Stint[] {
  const stints: Stint[] = [];
  for (const { first_pass, last_pass, name, count } of plan.stints) {
    const passes = plan.passes.slice(first_pass - 1, last_pass);
    const first = passes[0];
    if (!first) continue;
    stints.push({
      passes,
      first,
      seconds: passes.reduce((sum, pass) => sum + pass.end_s - pass.start_s, 0),
      on: count > 1 ? `${name} (${count})` : name,
      numbers: first_pass === last_pass ? String(first_pass) : `${first_pass}–${last_pass}`,
    });
  }
  return stints;
}
