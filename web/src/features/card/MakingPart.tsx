import { Button, minutes } from "@/shared/ui";
import { useCard } from "./card";
import { Part } from "./Part";
import { moved } from "./spec";

/** The order in which the card is made, to be changed by hand; what speaks against it is said. */
export function MakingPart() {
  const { spec, laid, change } = useCard();
  const codes = laid.making.map((step) => step.code);
  const nameOf = (code: string) => laid.making.find((step) => step.code === code)?.name ?? code;

  const put = (by: (making: string[]) => string[]) =>
    void change((now) => ({
      ...now,
      making: by(now.making.length ? now.making : codes) as typeof now.making,
    })).catch(() => undefined);

  return (
    <Part
      name="Order of making"
      action={
        spec.making.length > 0 && (
          <Button kind="quiet" onClick={() => put(() => [])}>
            Back to Paleta’s order
          </Button>
        )
      }
    >
      {laid.conflicts.length > 0 && (
        <ul aria-label="What speaks against this order" className="my-2 rounded bg-faint p-2">
          {laid.conflicts.map((one) => (
            <li key={one.before + one.after}>
              <strong>
                {nameOf(one.before)} before {nameOf(one.after).toLowerCase()}.
              </strong>{" "}
              {one.sentence}
            </li>
          ))}
        </ul>
      )}
      <ol aria-label="Steps of making" className="mt-1">
        {laid.making.map((step, place) => (
          <li key={step.code} className="grid grid-cols-[1.6rem_1fr_auto] gap-2 border-b border-faint py-1.5">
            <span className="text-right font-bold">{place + 1}</span>
            <span>
              <strong>{step.name}.</strong> {step.wait_s > 0 && <em>Wait {minutes(step.wait_s)}. </em>}
              <span className="text-[14px]">{step.how}</span>
            </span>
            <span className="flex gap-1">
              <Button
                kind="bar"
                aria-label={`${step.name}: earlier`}
                disabled={place === 0}
                onClick={() => put((making) => moved(making, step.code, -1))}
              >
                <span aria-hidden>↑</span>
              </Button>
              <Button
                kind="bar"
                aria-label={`${step.name}: later`}
                disabled={place === codes.length - 1}
                onClick={() => put((making) => moved(making, step.code, 1))}
              >
                <span aria-hidden>↓</span>
              </Button>
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-[13px] text-soft">
        Blades away from fingers; burrs prick: file them and sweep the table. Heat tools: never near wet alcohol ink.
      </p>
    </Part>
  );
}
