import type { Plan, Trade } from "@/shared/api";
import { minutes, useQueued } from "@/shared/ui";
import { useSetTouches, type Touch } from "../api";
import { usePiece } from "../bench";

/** Which finishing touches, and in what order they come with which waits. */
export function TouchesBox({ trade, plan }: { trade: Trade; plan: Plan | undefined }) {
  const piece = usePiece();
  const { mutateAsync } = useSetTouches(piece.id);
  const [chosen, change] = useQueued(piece.finish.touches, mutateAsync);
  const steps = plan?.after ?? [];

  function mark(code: Touch, on: boolean) {
    change((touches) => [...touches.filter((one) => one !== code), ...(on ? [code] : [])]);
  }

  return (
    <div className="mb-3">
      <fieldset className="grid grid-cols-2 gap-x-4">
        <legend className="mb-1">After the last pass</legend>
        {trade.touches.map((touch) => (
          <label key={touch.code} className="flex items-center gap-2 py-1">
            <input
              type="checkbox"
              className="size-5 accent-ink"
              checked={chosen.includes(touch.code as Touch)}
              onChange={(event) => mark(touch.code as Touch, event.target.checked)}
            />
            {touch.name}
          </label>
        ))}
      </fieldset>
      {steps.length > 0 && (
        <ol aria-label="Finishing touches in order" className="mt-2 border-t border-line">
          {steps.map((step, place) => (
            <li key={step.code} className="border-b border-faint py-1">
              {step.wait_s > 0 && (
                <p className="flex items-center gap-2 text-[13px] text-soft">
                  <span className="wait h-3 w-9" aria-hidden />
                  Wait {minutes(step.wait_s)} {place === 0 ? "until the colouring is dry" : "for it to dry"}
                </p>
              )}
              <strong>{step.name}</strong>: {step.how}, about {minutes(step.end_s - step.start_s)}.
              {step.caution && (
                <span className="block text-[13px]">
                  <strong>Take care.</strong> {step.caution}
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}
