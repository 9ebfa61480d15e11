import type { RunReadout } from "@/shared/api";
import type { Step } from "./course";
import { plannedPen } from "./progress";
import { penKey, type Progress } from "./replay";

/** A step in words: which swatch, where, how. */
export type Told = {
  title: string;
  hex: string | null;
  code: string;
  where: string;
  how: string;
  /** What was planned, where another pen is taken. */
  instead: string;
};

export function tellStep(run: RunReadout, progress: Progress, step: Step): Told {
  if (step.kind === "handling") {
    const one = run.handling[step.handling - 1];
    return { title: one?.name ?? "", hex: null, code: "", where: "", how: one?.how ?? "", instead: "" };
  }
  const stint = run.stints[step.stint];
  const first = run.steps[(stint?.first_pass ?? 1) - 1];
  const planned = first && plannedPen(run, first);
  const taken = progress.here.get(`${step.card}-${first?.number}`) ?? (first && progress.pens.get(penKey(first)));
  const count = stint && stint.count > 1 ? ` (${stint.count})` : "";
  return {
    title: taken?.name ?? planned?.name ?? "",
    hex: taken ? taken.hex : (planned?.hex ?? null),
    code: taken?.code ?? planned?.code ?? "",
    where: `${stint?.name ?? ""}${count}: ${first?.zone ?? ""}`,
    how: first?.how ?? "",
    instead: taken ? (planned?.name ?? "") : "",
  };
}

export function clockFace(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
