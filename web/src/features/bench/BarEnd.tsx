import { useEffect, useState } from "react";
import { createPortal } from "react-dom";
import { useOutletContext } from "react-router";

import { Button, tell } from "@/shared/ui";
import { useKeepRecipe, useRedo, useUndo } from "./api";
import { usePiece } from "./bench";
import { VersionsAsk } from "./versions/VersionsAsk";

/** Undo, redo, versions and keeping, at the right end of the bar. */
export function BarEnd() {
  const piece = usePiece();
  const undo = useUndo(piece.id);
  const redo = useRedo(piece.id);
  const keep = useKeepRecipe(piece.id);
  const [open, setOpen] = useState(false);
  const place = useOutletContext<HTMLElement | null>();

  const canUndo = piece.undo !== null;
  const canRedo = piece.redo !== null;
  const undoNow = undo.mutate;
  const redoNow = redo.mutate;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.altKey) return;
      if (event.target instanceof HTMLElement && event.target.matches("input[type=text], input:not([type]), textarea"))
        return;
      const key = event.key.toLowerCase();
      const back = key === "z" && !event.shiftKey;
      const forth = key === "y" || (key === "z" && event.shiftKey);
      if (!back && !forth) return;
      event.preventDefault();
      if (back && canUndo) undoNow();
      if (forth && canRedo) redoNow();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [canUndo, canRedo, undoNow, redoNow]);

  const next = (piece.latest_recipe ?? 0) + 1;
  const bar = (
    <>
      <Button
        kind="bar"
        disabled={!canUndo}
        busy={undo.isPending}
        onClick={() => undo.mutate()}
        title={canUndo ? `Undo: ${piece.undo}` : "Nothing to undo"}
      >
        Undo
      </Button>
      <Button
        kind="bar"
        disabled={!canRedo}
        busy={redo.isPending}
        onClick={() => redo.mutate()}
        title={canRedo ? `Redo: ${piece.redo}` : "Nothing to redo"}
      >
        Redo
      </Button>
      <Button kind="bar" onClick={() => setOpen(true)}>
        Versions
      </Button>
      <Button
        kind="main"
        busy={keep.isPending}
        disabled={!piece.changed_since_recipe}
        onClick={() => keep.mutate(undefined, { onSuccess: (kept) => tell(`Kept as version ${kept.latest_recipe}.`) })}
      >
        {piece.changed_since_recipe ? `Keep as version ${next}` : `Kept as version ${piece.latest_recipe}`}
      </Button>
      <VersionsAsk open={open} onClose={() => setOpen(false)} />
    </>
  );
  return place && createPortal(bar, place);
}
