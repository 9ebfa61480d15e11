import { useQuery } from "@tanstack/react-query";

import { drawerQueries, type Region, type Swatch, type Trade, nameOf } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useSetAccent } from "../api";
import { usePiece } from "../bench";
import { SwatchPicker } from "./SwatchPicker";

/** Passes that follow the light over the colours of the regions in hand, or touches of a background. */
export function Accents({ regions, trade }: { regions: Region[]; trade: Trade }) {
  const piece = usePiece();
  const { medium, drawer: drawerId } = piece.colours;
  const drawer = useQuery({ ...drawerQueries.detail(drawerId ?? 0), enabled: drawerId !== null }).data;
  const set = useSetAccent(piece.id);
  const first = regions[0];
  if (!first || first.coats.length === 0) return null;
  const labels = regions.map((region) => region.label);
  const kinds = trade.accents.filter((accent) => !accent.background || first.fade !== null);
  return (
    <details className="mt-2" open={first.accents.length > 0}>
      <summary>Accents over the colours{first.accents.length > 0 && ` (${first.accents.length})`}</summary>
      <p className="my-1 text-[13px] text-soft">
        They follow the light. Pale ones need what covers, such as pencil. A new one is laid in{" "}
        {nameOf(trade.media, medium).toLowerCase()}, the medium chosen above.
      </p>
      <ul aria-label="Accents">
        {kinds.map((kind) => {
          const there = first.accents.find((one) => one.kind === kind.code);
          const lay = (swatch: Swatch | null) =>
            set.mutate({
              labels,
              kind: kind.code as (typeof first.accents)[number]["kind"],
              medium,
              code: swatch?.code ?? null,
            });
          return (
            <li
              key={kind.code}
              className="grid min-h-10 grid-cols-[minmax(0,1fr)_8rem_5.5rem] items-center gap-2 border-t border-line py-1 text-[13px]"
            >
              <span>{kind.name}</span>
              {there ? (
                <SwatchPicker
                  swatch={there.swatch}
                  drawer={there.medium === medium ? (drawer?.swatches ?? []) : [there.swatch]}
                  onPick={(swatch) => lay(swatch)}
                />
              ) : (
                <span className="text-soft">none</span>
              )}
              {there ? (
                <Button
                  kind="quiet"
                  disabled={set.isPending}
                  aria-label={`Take off: ${kind.name}`}
                  onClick={() => set.mutate({ labels, kind: there.kind, medium: there.medium, code: "" })}
                >
                  Take off
                </Button>
              ) : (
                <Button
                  kind="quiet"
                  disabled={set.isPending || !drawer?.swatches.length}
                  title="A shade of what it lies on, or the palest there is; choose another afterwards"
                  aria-label={`Add: ${kind.name}`}
                  onClick={() => lay(null)}
                >
                  Add
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </details>
  );
}
