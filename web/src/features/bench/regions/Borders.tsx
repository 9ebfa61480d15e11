import { useState, type MouseEvent } from "react";

import { Button, placeIn, tell } from "@/shared/ui";
import { usePutBefore } from "../api";
import { useHand, usePiece } from "../bench";
import { borderNear, type Labels } from "../stage/labels";

/** A sheet of glass over the card: a click on a border turns round which side stands in front. */
export function BorderGlass({ labels }: { labels: Labels | undefined }) {
  const piece = usePiece();
  const hover = useHand((hand) => hand.hover);
  const putBefore = usePutBefore(piece.id);
  const [pair, setPair] = useState<[number, number] | null>(null);
  const region = (label: number) => piece.regions.list.find((one) => one.label === label);

  function under(event: MouseEvent<HTMLDivElement>): [number, number] | null {
    const { x, y } = placeIn(event.currentTarget, event);
    const found = labels && borderNear(labels, x, y);
    return found && piece.regions.borders.some((border) => border.a === found[0] && border.b === found[1])
      ? found
      : null;
  }

  const nearer = pair && frontOf(piece.regions.list, pair);
  const farther = pair?.find((label) => label !== nearer);
  return (
    // By keys borders are turned in the list of a region's borders.
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/no-static-element-interactions
    <div
      className={`absolute inset-0 ${pair ? "cursor-pointer" : "cursor-crosshair"}`}
      data-testid="borders"
      onMouseMove={(event) => {
        event.stopPropagation();
        const found = under(event);
        setPair(found);
        hover(found ? frontOf(piece.regions.list, found) : 0);
      }}
      onMouseLeave={() => {
        setPair(null);
        hover(0);
      }}
      onClick={(event) => {
        event.stopPropagation();
        const found = under(event);
        if (!found) return tell("Click on the line between two regions.", "problem");
        const front = frontOf(piece.regions.list, found);
        putBefore.mutate({ nearer: found[0] === front ? found[1] : found[0], farther: front });
      }}
    >
      {pair && (
        <p className="on-dark pointer-events-none absolute bottom-2 left-2 rounded bg-ink/85 px-2 py-1 text-[13px] text-sheet">
          {region(nearer ?? 0)?.name} stands before {region(farther ?? 0)?.name}. Click to turn it round.
        </p>
      )}
    </div>
  );
}

function frontOf(regions: { label: number; depth: number }[], [a, b]: [number, number]): number {
  const depth = (label: number) => regions.find((one) => one.label === label)?.depth ?? 0;
  return depth(a) >= depth(b) ? a : b;
}

/** The same in words, for the region in hand: what it touches, and which of the two is in front. */
export function BorderList({ label }: { label: number }) {
  const piece = usePiece();
  const putBefore = usePutBefore(piece.id);
  const hover = useHand((hand) => hand.hover);
  const own = piece.regions.list.find((region) => region.label === label);
  const others = piece.regions.borders
    .filter((border) => (border.a === label || border.b === label) && border.length_mm >= 1)
    .sort((one, other) => other.length_mm - one.length_mm)
    .map((border) => piece.regions.list.find((region) => region.label === (border.a === label ? border.b : border.a)))
    .filter((region) => region !== undefined);
  if (!own || others.length === 0) return null;
  return (
    <details className="text-[13px]">
      <summary className="py-1">What stands before what</summary>
      <ul aria-label={`Borders of ${own.name}`}>
        {others.map((other) => {
          const before = own.depth > other.depth;
          const level = own.depth === other.depth;
          return (
            <li
              key={other.label}
              className="flex items-center justify-between gap-2 py-0.5"
              onMouseEnter={() => hover(other.label)}
              onMouseLeave={() => hover(0)}
              onFocus={() => hover(other.label)}
              onBlur={() => hover(0)}
            >
              <span>
                {level ? `Level with ${other.name}` : before ? `Before ${other.name}` : `Behind ${other.name}`}
              </span>
              <Button
                kind="quiet"
                disabled={putBefore.isPending}
                aria-label={`Put ${own.name} ${before ? "behind" : "before"} ${other.name}`}
                onClick={() =>
                  putBefore.mutate(
                    before ? { nearer: other.label, farther: label } : { nearer: label, farther: other.label },
                  )
                }
              >
                {before ? "Put behind" : "Put before"}
              </Button>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
