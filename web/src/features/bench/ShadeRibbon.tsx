import { useQuery } from "@tanstack/react-query";
import { useMemo, useRef, useState, type KeyboardEvent } from "react";

import { pieceQueries, type Pass } from "@/shared/api";
import { minutes, swatchStyle } from "@/shared/ui";
import { useHand, usePiece, useSelected } from "./bench";

/** The passes in order as chips in their real colours, as wide as they take time; waits are hatched gaps. */
export function ShadeRibbon() {
  const piece = usePiece();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const selected = useSelected();
  const plan = useQuery(pieceQueries.plan(piece.id, piece.version)).data;
  const [at, setAt] = useState(0);
  const band = useRef<HTMLDivElement>(null);
  const passes = useMemo(() => plan?.passes ?? [], [plan]);
  const place = Math.min(at, Math.max(0, passes.length - 1));
  const current = passes[place];
  const maskBefore = (number: number) => plan?.handling.find((one) => one.before_pass === number)?.name;

  function go(to: number) {
    const next = Math.min(passes.length - 1, Math.max(0, to));
    const pass = passes[next];
    setAt(next);
    if (pass) selectOnly([pass.region]);
    band.current?.querySelector(`[data-pass="${next}"]`)?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }

  function onKeyDown(event: KeyboardEvent) {
    const to = {
      ArrowRight: place + 1,
      ArrowLeft: place - 1,
      Home: 0,
      End: passes.length - 1,
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
            <PassWords pass={current} of={passes.length} mask={maskBefore(current.number)} />
          ) : plan ? (
            "The order of passes appears here once there are colours."
          ) : (
            "Working out the order …"
          )}
        </p>
        {plan && passes.length > 0 && (
          <p className="shrink-0">
            {plan.pen_changes} pen changes; region by region {plan.by_region_pen_changes}. Saves about{" "}
            {minutes(Math.max(0, plan.by_region_duration_s - plan.duration_s))}
          </p>
        )}
      </div>
      {passes.length > 0 && (
        <div
          ref={band}
          role="listbox"
          aria-label="Passes in order"
          tabIndex={0}
          aria-activedescendant={`chip-${place}`}
          onKeyDown={onKeyDown}
          className="flex min-h-0 grow items-stretch gap-px overflow-x-auto p-0.5"
        >
          {passes.map((pass, index) => (
            <Chip
              key={pass.number}
              pass={pass}
              index={index}
              mask={maskBefore(pass.number)}
              current={index === place}
              picked={selected.includes(pass.region)}
              onPick={() => go(index)}
            />
          ))}
          <MaskMark name={maskBefore(passes.length + 1)} />
        </div>
      )}
    </section>
  );
}

function PassWords({ pass, of, mask }: { pass: Pass; of: number; mask: string | undefined }) {
  return (
    <>
      Pass {pass.number} of {of}: <strong>{pass.swatch.name}</strong> on {pass.name}, {pass.zone}
      {mask && ` (first: ${mask.toLowerCase()})`}
      {pass.wait_s > 0 && `, after ${minutes(pass.wait_s)} for ${pass.wait_for}`}
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
  pass: Pass;
  index: number;
  mask: string | undefined;
  current: boolean;
  picked: boolean;
  onPick: () => void;
};

function Chip({ pass, index, mask, current, picked, onPick }: ChipProps) {
  const seconds = pass.end_s - pass.start_s;
  return (
    <>
      <MaskMark name={mask} />
      {pass.wait_s > 0 && (
        <span aria-hidden className="wait shrink-0" style={{ width: Math.max(4, pass.wait_s / 4) }} />
      )}
      <span
        id={`chip-${index}`}
        data-pass={index}
        role="option"
        aria-selected={current}
        title={`${pass.number}. ${pass.swatch.name} on ${pass.name}, ${pass.zone}`}
        aria-label={`${pass.number}. ${pass.swatch.name} on ${pass.name}, ${pass.zone}`}
        onClick={onPick}
        className={`min-w-[5px] shrink cursor-pointer bg-(--swatch) ${pass.change ? "ml-1 rounded-l-sm" : ""} ${current ? "outline-3 outline-sheet outline-offset-1" : picked ? "" : "opacity-90"} ${picked ? "border-b-4 border-sheet" : ""}`}
        style={{ ...swatchStyle(pass.swatch.hex), flexGrow: seconds, flexBasis: 6 }}
      />
    </>
  );
}
