import { useCallback, useEffect, useState } from "react";

import { Button, counted, useSingleKeys } from "@/shared/ui";
import { useAnswer } from "../api";
import { useHand, usePiece } from "../bench";

/** What Paleta is not sure of, asked one after the other. It can be left at any time and taken up again. */
export function QuickRound() {
  const piece = usePiece();
  const { questions } = piece.regions;
  const answer = useAnswer(piece.id);
  const selectOnly = useHand((hand) => hand.selectOnly);
  const [asking, setAsking] = useState(false);
  const group = questions[0];
  const shown = group?.join() ?? "";

  useEffect(() => {
    if (asking && shown) selectOnly(shown.split(",").map(Number));
  }, [asking, shown, selectOnly]);

  const { mutate, isPending } = answer;
  const say = useCallback(
    (alike: boolean) => {
      if (shown && !isPending) mutate({ labels: shown.split(",").map(Number), alike });
    },
    [mutate, isPending, shown],
  );
  const onKey = useCallback(
    (key: string) => {
      if (asking && (key === "y" || key === "n")) say(key === "y");
    },
    [asking, say],
  );
  useSingleKeys(onKey);

  if (!group) return null;
  if (!asking) {
    return (
      <p className="mb-3 flex items-center justify-between gap-3 rounded border border-line px-3 py-2">
        {counted(questions.length, "group")} may be alike.
        <Button onClick={() => setAsking(true)}>Look through them</Button>
      </p>
    );
  }
  return (
    <div role="group" aria-label="Quick round" className="mb-3 rounded border-2 border-ink px-3 py-2">
      <p aria-live="polite" className="mb-2">
        <b>Are these {group.length} alike?</b>{" "}
        <span className="text-soft">They are marked on the picture. {questions.length - 1} more to come.</span>
      </p>
      <div className="flex gap-2">
        <Button kind="main" disabled={isPending} onClick={() => say(true)}>
          Yes (y)
        </Button>
        <Button disabled={isPending} onClick={() => say(false)}>
          No (n)
        </Button>
        <Button kind="quiet" onClick={() => setAsking(false)}>
          Later
        </Button>
      </div>
    </div>
  );
}
