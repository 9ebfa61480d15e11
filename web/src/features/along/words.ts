import type { RunReadout } from "@/shared/api";
import type { CourseStep } from "./course";
import { plannedPen } from "./progress";
import { penKey, type Progress } from "./replay";

/** A step in words: which swatch, where, how. */
export type StepWords = {
  title: string;
  hex: string | null;
  code: string;
  where: string;
  how: string;
  /** Where one pen does several things: each of them, in its order. */
  lines: { where: string; how: string; swatch: string }[];
  /** What was planned, where another pen is taken. */
  instead: string;
};

export function tellStep(run: RunReadout, progress: Progress, step: CourseStep): StepWords {
  if (step.kind === "handling") {
    const one = run.handling[step.handling - 1];
    return { title: one?.name ?? "", hex: null, code: "", where: "", how: one?.how ?? "", lines: [], instead: "" };
  }
  const first = run.steps[(step.passes[0] ?? 1) - 1];
  const planned = first && plannedPen(run, first);
  const taken = progress.here.get(`${step.card}-${first?.number}`) ?? (first && progress.pens.get(penKey(first)));
  const lines = step.stints.map((place) => {
    const stint = run.stints[place];
    const pass = run.steps[(stint?.first_pass ?? 1) - 1];
    const count = stint && stint.count > 1 ? ` (${stint.count})` : "";
    const swatch = (pass && plannedPen(run, pass)?.name) ?? "";
    return { where: `${stint?.name ?? ""}${count}: ${pass?.zone ?? ""}`, how: pass?.how ?? "", swatch };
  });
  const more = lines.length > 1 ? `, and ${lines.length - 1} more` : "";
  return {
    title: taken?.name ?? planned?.name ?? "",
    hex: taken ? taken.hex : (planned?.hex ?? null),
    code: taken?.code ?? planned?.code ?? "",
    where: `${lines[0]?.where ?? ""}${more}`,
    how: first?.how ?? "",
    lines: lines.length > 1 ? lines : [],
    instead: taken ? (planned?.name ?? "") : "",
  };
}

export function clockFace(seconds: number): string {
  const whole = Math.max(0, Math.ceil(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** What passes are laid on and with, said once each: "Rose 12 on Petal 1, Petal 2". */
export function namesOf(run: RunReadout, passes: number[]): string {
  const steps = passes.flatMap((number) => run.steps[number - 1] ?? []);
  const swatches = [...new Set(steps.map((step) => plannedPen(run, step)?.name ?? step.swatch))];
  const regions = [...new Set(steps.map((step) => step.name))];
  const shown = regions.length > 3 ? `${regions.length} regions` : regions.join(", ");
  return `${swatches.join(", ")} on ${shown}`;
}
