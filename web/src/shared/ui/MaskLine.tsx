import type { Plan } from "@/shared/api";
import { minutes } from "./words";

/** What is done with a mask before a pass, or after the last one. */
export function MaskLine({ plan, before }: { plan: Plan; before: number }) {
  return plan.handling
    .filter((one) => one.before_pass === before)
    .map((one) => (
      <p key={one.kind} className="border-b border-faint bg-faint px-1 py-1.5 text-[13px]">
        {one.wait_s > 0 && <>Wait {minutes(one.wait_s)} for the paper to dry. </>}
        <strong>{one.name}</strong> {one.how}.
      </p>
    ));
}
