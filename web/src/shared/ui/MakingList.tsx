import type { MakingStep } from "@/shared/api";
import { minutes } from "./words";

/** How the card is made once its picture is coloured, to read. */
export function MakingList({ steps }: { steps: MakingStep[] }) {
  if (steps.length === 0) return null;
  return (
    <section aria-label="Making the card">
      <h3 className="text-[15px]">Then the card</h3>
      <ol className="ml-5 list-decimal">
        {steps.map((step) => (
          <li key={step.code} className="py-0.5">
            <strong>{step.name}.</strong> {step.wait_s > 0 && <em>Wait {minutes(step.wait_s)}. </em>}
            {step.how}
          </li>
        ))}
      </ol>
    </section>
  );
}
