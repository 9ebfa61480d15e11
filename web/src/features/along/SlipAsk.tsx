import { useState } from "react";

import type { RunEvent, RunReadout, Slip } from "@/shared/api";
import { Ask, Button } from "@/shared/ui";

type Props = {
  open: boolean;
  onClose: () => void;
  run: RunReadout;
  last: RunEvent | undefined;
  onSlip: (slip: string, rescue: string | null) => void;
};

/** What went wrong, and what the trade does about it. */
export function SlipAsk({ open, onClose, run, last, onSlip }: Props) {
  const [slip, setSlip] = useState<Slip | null>(null);
  const laid = last?.passes?.[0] ? run.steps[last.passes[0] - 1] : undefined;
  const where = laid?.name;
  // No putty rubber for a marker: only what serves the medium that was laid last.
  const rescues = slip?.rescues.filter((one) => !laid || one.media.includes(laid.medium)) ?? [];
  function close() {
    setSlip(null);
    onClose();
  }
  function settle(rescue: string | null) {
    if (slip) onSlip(slip.code, rescue);
    close();
  }
  return (
    <Ask open={open} onClose={close} title={slip ? slip.name : "What happened?"} wide>
      {where && <p className="mb-3 text-soft">On {where}, which was laid last.</p>}
      {!slip ? (
        <ul className="grid gap-2 sm:grid-cols-2">
          {run.slips.map((one) => (
            <li key={one.code}>
              <Button className="min-h-12 w-full text-left" onClick={() => setSlip(one)}>
                {one.name}
              </Button>
            </li>
          ))}
        </ul>
      ) : (
        <>
          <ul className="mb-3 grid gap-2" aria-label="Ways out">
            {rescues.map((one) => (
              <li key={one.code}>
                <button
                  type="button"
                  onClick={() => settle(one.code)}
                  className="block min-h-12 w-full rounded border border-ink px-3 py-2 text-left hover:bg-faint"
                >
                  <strong>{one.name}.</strong> {one.how}
                  {one.caution && (
                    <span className="mt-1 block border-l-4 border-ink pl-2 text-[14px]">{one.caution}</span>
                  )}
                </button>
              </li>
            ))}
          </ul>
          <div className="flex justify-between gap-3">
            <Button className="min-h-12" onClick={() => setSlip(null)}>
              Something else
            </Button>
            <Button className="min-h-12" onClick={() => settle(null)}>
              Note it, rescue later
            </Button>
          </div>
        </>
      )}
    </Ask>
  );
}
