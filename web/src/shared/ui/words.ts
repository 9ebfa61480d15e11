/** Numbers as people read them. */

import type { Plan } from "@/shared/api";

export function minutes(seconds: number): string {
  if (seconds < 90) return `${Math.round(seconds)} s`;
  const whole = Math.round(seconds / 60);
  return whole < 100 ? `${whole} min` : `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, "0")} min`;
}

export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** Words made into a sentence: a capital first, a full stop last. */
export function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

export type Unit = "in" | "cm";
const MM = { in: 25.4, cm: 10 };

/** Inches in eighths, set as fractions; centimetres to a millimetre. */
export function length(mm: number, unit: Unit): string {
  if (unit === "cm") return `${(mm / 10).toFixed(1)} cm`;
  const eighths = Math.round((mm / MM.in) * 8);
  const whole = Math.floor(eighths / 8);
  const part = ["", "⅛", "¼", "⅜", "½", "⅝", "¾", "⅞"][eighths % 8];
  return `${whole || !part ? whole : ""}${part} in`;
}

/** What someone typed as a length ("4 1/4", "4¼", "4.25", "10,8") in mm; null if it is none. */
export function toMm(text: string, unit: Unit): number | null {
  const spelled = text.replace(/[¼½¾⅓⅔⅛⅜⅝⅞]/g, (sign) => ` ${sign.normalize("NFKC").replace("⁄", "/")}`);
  const tidy = spelled.trim().replace(",", ".");
  const fraction = /^(?:(\d+)[ -]+)?(\d+)\/(\d+)$/.exec(tidy);
  const value = fraction
    ? Number(fraction[1] ?? 0) + Number(fraction[2]) / Number(fraction[3])
    : /^\d+(\.\d+)?$/.test(tidy)
      ? Number(tidy)
      : NaN;
  return Number.isFinite(value) && value > 0 ? value * MM[unit] : null;
}

/**
 * Numbers that someone typed one after the other: "12.5, 15", "12,5; 15", "15 15". A comma between two digits is a
 * decimal one, unless there are several in a row ("15,15,15").
 */
export function toNumbers(text: string): number[] {
  return text
    .trim()
    .split(/[\s;]+|,\s+/)
    .filter(Boolean)
    .flatMap((one) => (one.split(",").length > 2 ? one.split(",") : [one.replace(",", ".").replace(/\.$/, "")]))
    .map((one) => (one.trim() === "" ? NaN : Number(one)));
}

const PIECE_KEY = "paleta.piece";

/** The piece last on the bench, so that "Bench" leads back to it. */
export function lastPiece(): string | null {
  return localStorage.getItem(PIECE_KEY);
}

export function rememberPiece(id: number | null) {
  if (id === null) localStorage.removeItem(PIECE_KEY);
  else localStorage.setItem(PIECE_KEY, String(id));
}

function share(part: number): string {
  return `${Math.max(1, Math.round(part * 100))} %`;
}

/** Where the times of a plan come from. */
export function timesFrom(plan: Plan): string {
  if (plan.version !== null) return "at the pace of when it was kept";
  if (plan.timed_passes > 0) return `by ${plan.timed_passes} passes of yours, give or take ${share(plan.pace_doubt)}`;
  if (plan.timed_runs === 0) return "by common practice";
  return plan.timed_runs === 1 ? "by the one time you noted" : `by the ${plan.timed_runs} times you noted`;
}
