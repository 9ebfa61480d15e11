import { useState, type DragEvent, type FormEvent } from "react";
import { useNavigate } from "react-router";

import { LIMITS, Problem, useLook } from "@/shared/api";
import {
  Ask,
  Button,
  CornerPicker,
  goRound,
  QueueLength,
  isWhole,
  LineReading,
  Refusal,
  tell,
  toMm,
  WHOLE,
} from "@/shared/ui";
import { useUnit, type Corners, type Reading, type Unit } from "@/shared/ui";
import { useAddPiece } from "./api";

const USUAL: Reading = { percent: 0, gapMm: 1 };

/** Asks for a scan or photo, what to call it, and how wide it is on paper. */
export function AddPieceAsk({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [image, setImage] = useState<File | null>(null);
  const [title, setTitle] = useState("");
  const [width, setWidth] = useState("");
  const { unit, choose: chooseUnit } = useUnit();
  const [fault, setFault] = useState("");
  const [over, setOver] = useState(false);
  const [corners, setCorners] = useState<Corners>(WHOLE);
  const [reading, setReading] = useState(USUAL);
  const [asked, setAsked] = useState(false);
  const addPiece = useAddPiece();
  const look = useLook();
  const navigate = useNavigate();

  function choose(file: File | undefined) {
    if (!file) return;
    setImage(file);
    setFault("");
    setReading(USUAL);
    setAsked(false);
    addPiece.reset();
    look.reset();
    look.mutate(file, { onSuccess: (seen) => setCorners((seen.corners as Corners | null) ?? WHOLE) });
    if (!title)
      setTitle(
        file.name
          .replace(/\.[^.]+$/, "")
          .replace(/[-_]+/g, " ")
          .slice(0, LIMITS.AddPieceRequest.title.maxLength),
      );
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    choose(event.dataTransfer.files[0]);
  }

  function close() {
    if (addPiece.isPending) return;
    addPiece.reset();
    look.reset();
    setImage(null);
    setTitle("");
    setWidth("");
    setFault("");
    setReading(USUAL);
    setAsked(false);
    onClose();
  }

  function submit(event: FormEvent) {
    event.preventDefault();
    const widthMm = width.trim() ? toMm(width, unit) : null;
    if (!image) return setFault("Choose a scan or photo first.");
    if (!title.trim()) return setFault("Give it a title, so that you find it on the shelf.");
    if (width.trim() && widthMm === null) return setFault(`"${width}" is no width. Write it like 4 1/4 or 10.8.`);
    if (!goRound(corners)) return setFault("The corners cross or fold in. Drag them so that they go round the sheet.");
    const cut = isWhole(corners) ? null : corners;
    if (cut && widthMm === null && !look.data?.width_mm)
      return setFault("Give the width of the sheet between the corners, in inches or centimetres.");
    setFault("");
    addPiece.mutate(
      { image, title: title.trim(), widthMm, reading, corners: cut },
      {
        onSuccess: (piece) => {
          close();
          if (piece.warnings.length > 0) tell(piece.warnings.join(" "));
          void navigate(`/pieces/${piece.id}?section=regions&view=regions`);
        },
        onError: (error) => setAsked((before) => before || (error instanceof Problem && error.code === "no_regions")),
      },
    );
  }

  const error = addPiece.error ?? look.error;
  return (
    <Ask open={open} onClose={close} title="Add a stamped image">
      <form onSubmit={submit} noValidate className="flex flex-col gap-3">
        <label
          onDragOver={(event) => {
            event.preventDefault();
            setOver(true);
          }}
          onDragLeave={() => setOver(false)}
          onDrop={drop}
          className={`block cursor-pointer rounded border-2 border-dashed ${image ? "p-2" : "p-5"} text-center focus-within:outline-3 ${over ? "border-ink bg-faint" : "border-soft"}`}
        >
          <span className="block font-bold">{image ? image.name : "Choose a scan or photo, or drop it here"}</span>
          <span className={image ? "sr-only" : "block text-[13px] text-soft"}>
            Scan or photo (PNG, JPEG, WebP, TIFF), 300 dpi is best; or line art in SVG
          </span>
          <input
            type="file"
            className="sr-only"
            aria-label="Scan or photo"
            accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,.svg,image/*"
            onChange={(event) => choose(event.target.files?.[0])}
          />
        </label>
        {look.isPending && (
          <p role="status" className="text-soft">
            Reading the picture …
            <QueueLength />
          </p>
        )}
        {look.data && (
          <div>
            <CornerPicker preview={look.data.preview} corners={corners} onChange={setCorners} />
            <p className="mt-1 flex justify-between gap-3 text-[13px] text-soft">
              {isWhole(corners)
                ? "The whole picture is used. Drag the corners to crop or straighten it."
                : "What lies between the corners is laid flat. Enter accepts."}
              {!isWhole(corners) && (
                <Button kind="quiet" onClick={() => setCorners(WHOLE)}>
                  Use the whole picture
                </Button>
              )}
            </p>
          </div>
        )}
        {asked && (
          <>
            <Refusal error={fault || error} />
            <fieldset className="rounded bg-faint p-3">
              <legend className="contents font-bold">Read the line otherwise</legend>
              <p className="my-1 text-[13px] text-soft">
                More ink for a pale line, less for a smudged one; wider gaps for a broken one. Or drag the corners above
                until they hold the stamped image alone.
              </p>
              <LineReading reading={reading} onKeep={setReading} />
            </fieldset>
          </>
        )}
        <label className="block">
          Title
          <input
            className="field mt-1"
            value={title}
            onChange={(event) => setTitle(event.target.value)}
            required
            maxLength={LIMITS.AddPieceRequest.title.maxLength}
          />
        </label>
        <div>
          <label htmlFor="paper-width">
            {isWhole(corners) ? "Width of the picture on paper" : "Width of the sheet between the corners"}
          </label>
          <div className="mt-1 flex gap-2">
            <input
              id="paper-width"
              className="field"
              value={width}
              onChange={(event) => setWidth(event.target.value)}
              placeholder={unit === "in" ? "for example 4 1/4" : "for example 10,8"}
              inputMode="text"
            />
            <select
              aria-label="Unit"
              className="rounded border border-soft px-2"
              value={unit}
              onChange={(event) => chooseUnit(event.target.value as Unit)}
            >
              <option value="in">inches</option>
              <option value="cm">cm</option>
            </select>
          </div>
          <p className="mt-1 text-[13px] text-soft">Leave it empty if the file knows its own resolution.</p>
        </div>
        {!asked && <Refusal error={fault || error} />}
        {addPiece.isPending && (
          <p role="status" className="text-soft">
            Reading the picture and finding its regions. This takes a few seconds.
            <QueueLength />
          </p>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={close} disabled={addPiece.isPending}>
            Cancel
          </Button>
          <Button type="submit" kind="main" busy={addPiece.isPending}>
            Find the regions
          </Button>
        </div>
      </form>
    </Ask>
  );
}
