import { LIMITS, matesOf } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useAllAlike, useGroup, useRenameThing } from "../api";
import { useChosen, useHand, usePiece } from "../bench";
import { KeptField } from "../KeptField";

/** Putting regions together as one thing and taking them apart: one gesture each. */
export function ThingButtons() {
  const piece = usePiece();
  const chosen = useChosen();
  const selectOnly = useHand((hand) => hand.selectOnly);
  const group = useGroup(piece.id);
  const allAlike = useAllAlike(piece.id);
  const rename = useRenameThing(piece.id);
  const first = chosen[0];
  if (!first) return null;
  const labels = chosen.map((region) => region.label);
  const mates = matesOf(piece.regions.list, first.label);
  const oneThing = labels.every((label) => mates.includes(label));
  const whole = oneThing && mates.length > 1 && labels.length === mates.length;
  const busy = group.isPending || allAlike.isPending;
  const alike = () =>
    allAlike.mutate(first.label, {
      onSuccess: (changed) => selectOnly(matesOf(changed.regions.list, first.label)),
    });
  return (
    <div className="mb-2">
      {whole && (
        <KeptField
          key={first.thing}
          label="Thing"
          value={first.thing}
          maxLength={LIMITS.ThingNameRequest.name.maxLength}
          required
          onKeep={(name) => rename.mutate({ label: first.label, name })}
        />
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {(chosen.length === 1 || whole) && (
          <Button disabled={busy} title="Add whatever looks like it to its thing" onClick={alike}>
            All like this
          </Button>
        )}
        {!oneThing && (
          <Button disabled={busy} onClick={() => group.mutate({ labels, together: true })}>
            {first.thing ? `These too belong to ${first.thing}` : "Make one thing"}
          </Button>
        )}
        {oneThing && !whole && mates.length > 1 && (
          <Button disabled={busy} onClick={() => group.mutate({ labels, together: false })}>
            {chosen.length === 1 ? "Not this one" : "Not these"}
          </Button>
        )}
        {whole && (
          <Button disabled={busy} onClick={() => group.mutate({ labels, together: false })}>
            Split this thing
          </Button>
        )}
      </div>
    </div>
  );
}
