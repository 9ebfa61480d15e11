import { useState, type ReactNode } from "react";

import { useLook } from "@/shared/api";
import {
  Button,
  CornerPicker,
  FileButton,
  goRound,
  QueueLength,
  isWhole,
  Refusal,
  WHOLE,
  type Corners,
} from "@/shared/ui";

type Props = {
  /** What the photo is of, for the file field. */
  name: string;
  words: string;
  action: string;
  busy: boolean;
  error: string;
  children?: ReactNode;
  onGo: (photo: File, corners: Corners | null) => void;
  progress: string;
};

/** Choose or take a photo, see where its sheet was found, put its corners right, go on. */
export function PhotoPick({ name, words, action, busy, error, children, onGo, progress }: Props) {
  const [photo, setPhoto] = useState<File | null>(null);
  const [corners, setCorners] = useState<Corners>(WHOLE);
  const look = useLook();
  function choose(file: File) {
    setPhoto(file);
    look.mutate(file, { onSuccess: (seen) => setCorners((seen.corners as Corners | null) ?? WHOLE) });
  }
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (photo) onGo(photo, isWhole(corners) || !goRound(corners) ? null : corners);
      }}
    >
      <FileButton name={name} accept="image/*" look="drop" onFile={choose} disabled={busy}>
        {photo ? photo.name : words}
      </FileButton>
      {look.isPending && (
        <p role="status">
          Looking for the card in the photo …
          <QueueLength />
        </p>
      )}
      {look.error && <Refusal error={look.error.message} />}
      {look.data && (
        <>
          <CornerPicker preview={look.data.preview} corners={corners} onChange={setCorners} />
          <p className="text-[13px] text-soft">
            {look.data.corners
              ? "The card was found. Put its corners right where they are off; arrows move them too."
              : "No edge stands out; the drawing is looked for by its lines. If that fails, drag the corners to the card."}
          </p>
        </>
      )}
      {children}
      {error && <Refusal error={error} />}
      {busy && (
        <div role="status">
          <p>
            {progress}
            <QueueLength />
          </p>
          <progress className="h-2 w-full accent-ink" aria-label={progress} />
        </div>
      )}
      <Button type="submit" kind="main" busy={busy} disabled={!look.data}>
        {action}
      </Button>
    </form>
  );
}
