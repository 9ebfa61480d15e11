import { useRef, useState } from "react";

import { Ask, Button } from "@/shared/ui";

type Props = {
  open: boolean;
  onClose: () => void;
  onNote: (text: string) => void;
  onPhoto: (file: File, text: string) => void;
};

/** A line for the record, or a photo of the card as it is now. */
export function NoteAsk({ open, onClose, onNote, onPhoto }: Props) {
  const [text, setText] = useState("");
  const input = useRef<HTMLInputElement>(null);
  function close() {
    setText("");
    onClose();
  }
  return (
    <Ask open={open} onClose={close} title="Note or photo">
      <label className="mb-3 block">
        What to remember
        <textarea
          className="field mt-1"
          rows={3}
          maxLength={500}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        className="sr-only"
        tabIndex={-1}
        aria-label="Photo of the card"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onPhoto(file, text.trim().slice(0, 200));
          if (file) close();
        }}
      />
      <div className="flex justify-between gap-3">
        <Button className="min-h-12" onClick={() => input.current?.click()}>
          Photo of the card
        </Button>
        <Button
          kind="main"
          className="min-h-12"
          disabled={!text.trim()}
          onClick={() => {
            onNote(text.trim());
            close();
          }}
        >
          Note it
        </Button>
      </div>
    </Ask>
  );
}
