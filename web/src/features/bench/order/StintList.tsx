import { useState } from "react";

import { stintsOf, type Plan, type Stint } from "@/shared/api";
import { MaskLine, minutes, sentence, swatchStyle } from "@/shared/ui";
import { useHand, useSelected } from "../bench";

const JOIN = { start: "", wet: "While it is wet: ", dry: "On dry: ", any: "" };

/** The plan as stints, each folding out to its passes. */
export function StintList({ plan }: { plan: Plan }) {
  return (
    <ol className="max-h-[46vh] overflow-y-auto border-y border-line" aria-label="Passes">
      {stintsOf(plan).map((stint) => (
        <li key={stint.first.number}>
          <MaskLine plan={plan} before={stint.first.number} />
          {stint.first.wait_s > 0 && (
            <p className="flex items-center gap-2 bg-faint px-1 py-1 text-[13px]">
              <span className="wait h-3 w-9" aria-hidden />
              Wait {minutes(stint.first.wait_s)} for {stint.first.wait_for}
            </p>
          )}
          <StintRow stint={stint} />
        </li>
      ))}
      <li>
        <MaskLine plan={plan} before={plan.passes.length + 1} />
      </li>
    </ol>
  );
}

function StintRow({ stint }: { stint: Stint }) {
  const { first, passes } = stint;
  const selectOnly = useHand((hand) => hand.selectOnly);
  const selected = useSelected();
  const [open, setOpen] = useState(false);
  const inHand = passes.some((pass) => selected.includes(pass.region));
  return (
    <>
      <div className={`flex border-b border-faint ${inHand ? "bg-ink/10" : "hover:bg-faint"}`}>
        <button
          type="button"
          onClick={() => selectOnly([...new Set(passes.map((pass) => pass.region))])}
          className="grid grow grid-cols-[3.6rem_1.6rem_1fr] gap-2 px-1 py-1.5 text-left outline-offset-[-3px]"
        >
          <span className="text-right font-display font-bold">{stint.numbers}</span>
          <span
            className="mt-0.5 size-5 rounded-sm border border-line bg-(--swatch)"
            style={swatchStyle(first.swatch.hex)}
          />
          <span>
            <span className={first.change || first.number === 1 ? "font-bold" : ""}>{first.swatch.name}</span> on{" "}
            {stint.on}, {first.zone}
            <span className="block text-[13px] text-soft">{sentence(JOIN[first.join] + first.how)}</span>
          </span>
        </button>
        {passes.length > 1 && (
          <button
            type="button"
            aria-expanded={open}
            aria-label={`Passes ${stint.numbers}`}
            onClick={() => setOpen(!open)}
            className="px-2 text-soft"
          >
            {open ? "▾" : "▸"}
          </button>
        )}
      </div>
      {open && (
        <ol aria-label={`Passes ${stint.numbers}, one by one`}>
          {passes.map((pass) => (
            <li key={pass.number} className="border-b border-faint">
              <button
                type="button"
                onClick={() => selectOnly([pass.region])}
                className="grid w-full grid-cols-[3.6rem_1.6rem_1fr] gap-2 px-1 py-1 text-left text-[13px] outline-offset-[-3px] hover:bg-faint"
              >
                <span className="text-right">{pass.number}</span>
                <span aria-hidden />
                <span>{pass.name}</span>
              </button>
            </li>
          ))}
        </ol>
      )}
    </>
  );
}
