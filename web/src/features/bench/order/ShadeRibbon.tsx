import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState, type KeyboardEvent } from "react";

import { pieceQueries, stintsOf, type Stint } from "@/shared/api";
import { minutes, swatchStyle } from "@/shared/ui";
import { useHand, usePiece, useSelected } from "../bench";

/** The passes in order as chips in their real colours, as wide as they take time; waits are hatched gaps. */
export function ShadeRibbon() {
  const piece = usePiece();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const selected = useSelected();
  const plan = useQuery(pieceQueries.plan(piece.id, piece.version, piece.latest_recipe)).data;
  const [at, setAt] = useState(0);
  const band = useRef<HTMLDivElement>(null);
  const stints = useMemo(() => (plan ? stintsOf(plan) : []), [plan]);
  const place = Math.min(at, Math.max(0, stints.length - 1));
  const current = stints[place];
  const maskBefore = (number: number) => plan?.handling.find((one) => one.before_pass === number)?.name;

  function go(to: number) {
    const next = Math.min(stints.length - 1, Math.max(0, to));
    const stint = stints[next];
    setAt(next);
    if (stint) selectOnly([...new Set(stint.passes.map((pass) => pass.region))]);
    band.current?.querySelector(`[data-stint="${next}"]`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }

  function onKeyDown(event: KeyboardEvent) {
    const to = {
      ArrowRight: place + 1,
      ArrowLeft: place - 1,
      Home: 0,
      End: stints.length - 1,
      PageDown: place + 10,
      PageUp: place - 10,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    go(to);
  }

  return (
    <section
      aria-label="Shade ribbon"
      className="on-dark flex h-[5.75rem] shrink-0 flex-col bg-ink px-5 pb-3 pt-2 text-sheet"
    >
      <div className="mb-1.5 flex justify-between gap-6 text-[14px]">
        <p className="truncate" aria-live="polite">
          {current ? (
            <StintWords stint={current} of={plan?.passes.length ?? 0} mask={maskBefore(current.first.number)} />
          ) : plan ? (
            "The order of passes appears here once there are colours."
          ) : (
            "Working out the order …"
          )}
        </p>
        {plan && stints.length > 0 && (
          <p className="shrink-0">
            {plan.pen_changes} pen changes; region by region {plan.by_region_pen_changes}. Saves about{" "}
            {minutes(Math.max(0, plan.by_region_duration_s - plan.duration_s))}
          </p>
        )}
      </div>
      {plan && stints.length > 0 && (
        <div
          ref={band}
          role="listbox"
          aria-label="Passes in order"
          tabIndex={0}
          aria-activedescendant={`chip-${place}`}
          onKeyDown={onKeyDown}
          className="flex min-h-0 grow items-stretch gap-px overflow-x-auto p-0.5"
        >
          {stints.map((stint, index) => (
            <Chip
              key={stint.first.number}
              stint={stint}
              index={index}
              mask={maskBefore(stint.first.number)}
              current={index === place}
              picked={stint.passes.some((pass) => selected.includes(pass.region))}
              onPick={() => go(index)}
            />
          ))}
          <MaskMark name={maskBefore(plan.passes.length + 1)} />
        </div>
      )}
    </section>
  );
}

function StintWords({ stint, of, mask }: { stint: Stint; of: number; mask: string | undefined }) {
  const { first } = stint;
  return (
    <>
      Pass {stint.numbers} of {of}: <strong>{first.swatch.name}</strong> on {stint.on}, {first.zone}
      {mask && ` (first: ${mask.toLowerCase()})`}
      {first.wait_s > 0 && `, after ${minutes(first.wait_s)} for ${first.wait_for}`}
    </>
  );
}

function MaskMark({ name }: { name: string | undefined }) {
  return (
    name && (
      <span aria-hidden title={name} className="mx-1 w-2.5 shrink-0 rounded-sm border-2 border-dashed border-sheet" />
    )
  );
}

type ChipProps = {
  stint: Stint;
  index: number;
  mask: string | undefined;
  current: boolean;
  picked: boolean;
  onPick: () => void;
};

function Chip({ stint, index, mask, current, picked, onPick }: ChipProps) {
  const pass = stint.first;
  const words = `${stint.numbers}. ${pass.swatch.name} on ${stint.on}, ${pass.zone}`;
  return (
    <>
      <MaskMark name={mask} />
      {pass.wait_s > 0 && (
        <span aria-hidden className="wait shrink-0" style={{ width: Math.max(4, pass.wait_s / 4) }} />
      )}
      {/* The list that holds it has the focus and the keys. */}
      {/* eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/interactive-supports-focus */}
      <span
        id={`chip-${index}`}
        data-stint={index}
        role="option"
        aria-selected={current}
        title={words}
        aria-label={words}
        onClick={onPick}
        className={`min-w-[5px] shrink cursor-pointer bg-(--swatch) ${pass.change ? "ml-1 rounded-l-sm" : ""} ${current ? "outline-3 outline-sheet outline-offset-1" : picked ? "" : "opacity-90"} ${picked ? "border-b-4 border-sheet" : ""}`}
        style={{ ...swatchStyle(pass.swatch.hex), flexGrow: stint.seconds, flexBasis: 6 }}
      />
    </>
  );
}
