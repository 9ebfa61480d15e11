import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { LIMITS, type Region } from "@/shared/api";
import { Button, RampChips, tell } from "@/shared/ui";
import { gotosQuery, useDropGoTo, useKeepGoTo, useLayGoTo } from "../api";
import { usePiece } from "../bench";

/** Saved ramps: lay one on the regions in hand or on all that carry its tags, or save this one. */
export function GoTos({ regions }: { regions: Region[] }) {
  const piece = usePiece();
  const gotos = useQuery(gotosQuery).data ?? [];
  const lay = useLayGoTo(piece.id);
  const keep = useKeepGoTo(piece.id);
  const drop = useDropGoTo();
  const [name, setName] = useState("");
  const first = regions[0];
  const fitting = gotos.filter((goto) => goto.medium === piece.colours.medium);
  const labels = regions.map((region) => region.label);

  function save() {
    if (!first || !name.trim()) return;
    // What is shown in this medium is saved; else the lowest coat.
    const shown = first.coats.find((coat) => coat.medium === piece.colours.medium);
    keep.mutate(
      { label: first.label, name: name.trim(), tags: first.tags, medium: shown?.medium ?? "" },
      {
        onSuccess: () => {
          setName("");
          tell("Saved as a go-to.");
        },
      },
    );
  }

  return (
    <details className="mt-2">
      <summary>Go-tos{fitting.length > 0 && ` (${fitting.length})`}</summary>
      <ul aria-label="Go-tos">
        {fitting.map((goto) => (
          <li
            key={goto.id}
            className="grid grid-cols-[minmax(0,1fr)_8rem_auto] items-center gap-2 border-t border-line py-1 text-[13px]"
          >
            <span className="truncate">
              {goto.name}
              {goto.tags.length > 0 && <span className="text-soft"> · {goto.tags.join(", ")}</span>}
            </span>
            <RampChips swatches={goto.ramp.swatches} small />
            <span className="flex gap-2">
              <Button
                kind="quiet"
                disabled={lay.isPending}
                aria-label={`Use ${goto.name} here`}
                onClick={() => lay.mutate({ goto: goto.id, labels })}
              >
                Use
              </Button>
              {goto.tags.length > 0 && (
                <Button
                  kind="quiet"
                  disabled={lay.isPending}
                  aria-label={`Use ${goto.name} on all ${goto.tags.join(", ")}`}
                  onClick={() => lay.mutate({ goto: goto.id, labels: [] })}
                >
                  On all tagged
                </Button>
              )}
              <Button kind="quiet" aria-label={`Forget ${goto.name}`} onClick={() => drop.mutate(goto.id)}>
                Forget
              </Button>
            </span>
          </li>
        ))}
      </ul>
      {first && first.coats.length > 0 ? (
        <p className="mt-1 flex items-center gap-2 text-[13px]">
          <label className="flex items-center gap-2">
            Save these colours as
            <input
              className="w-36 rounded border border-soft px-1 py-0.5"
              maxLength={LIMITS.KeepGoToRequest.name.maxLength}
              value={name}
              onChange={(event) => setName(event.target.value)}
              onKeyDown={(event) => event.key === "Enter" && save()}
            />
          </label>
          <Button kind="quiet" busy={keep.isPending} disabled={!name.trim()} onClick={save}>
            Save go-to
          </Button>
        </p>
      ) : (
        <p className="text-[13px] text-soft">
          Once this region has colours they can be saved here and used on other pictures.
        </p>
      )}
    </details>
  );
}
