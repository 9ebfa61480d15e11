import { useState, type DragEvent, type FormEvent } from "react";
import { useNavigate } from "react-router";

import { Problem } from "@/shared/api";
import { Ask, Button, chooseUnit, chosenUnit, tell, toMm, type Unit } from "@/shared/ui";
import { useAddPiece } from "./api";

/** Asks for a scan or photo, what to call it, and how wide it is on paper. */
export function AddPieceAsk({ open, onClose }: { open: boolean; onClose: () => void }) {
  const [image, setImage] = useState<File | null>(null);
  const [title, setTitle] = useState("");
  const [width, setWidth] = useState("");
  const [unit, setUnit] = useState<Unit>(chosenUnit());
  const [fault, setFault] = useState("");
  const [over, setOver] = useState(false);
  const addPiece = useAddPiece();
  const navigate = useNavigate();

  function choose(file: File | undefined) {
    if (!file) return;
    setImage(file);
    setFault("");
    addPiece.reset();
    if (!title) setTitle(file.name.replace(/\.[^.]+$/, "").replace(/[-_]+/g, " ").slice(0, 120));
  }

  function drop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    choose(event.dataTransfer.files[0]);
  }

  function close() {
    if (addPiece.isPending) return;
    addPiece.reset();
    setImage(null);
    setTitle("");
    setWidth("");
    setFault("");
    onClose();
  }

  function submit(event: FormEvent) {
    event.preventDefault();
    const widthMm = width.trim() ? toMm(width, unit) : null;
    if (!image) return setFault("Choose a scan or photo first.");
    if (!title.trim()) return setFault("Give it a title, so that you find it on the shelf.");
    if (width.trim() && widthMm === null) return setFault(`"${width}" is no width. Write it like 4 1/4 or 10.8.`);
    setFault("");
    addPiece.mutate({ image, title: title.trim(), widthMm, gapMm: 1 }, {
      onSuccess: (piece) => {
        close();
        if (piece.warnings.length > 0) tell(piece.warnings.join(" "));
        void navigate(`/pieces/${piece.id}?section=regions&view=regions`);
      },
    });
  }

  const error = addPiece.error;
  const said = fault || (error instanceof Problem ? Object.values(error.fields)[0] ?? error.message : error?.message);
  return (
    <Ask open={open} onClose={close} title="Add a stamped image">
      <form onSubmit={submit} noValidate className="flex flex-col gap-4">
        <label onDragOver={(event) => { event.preventDefault(); setOver(true); }} onDragLeave={() => setOver(false)} onDrop={drop}
          className={`block cursor-pointer rounded border-2 border-dashed p-5 text-center focus-within:outline-3 ${over ? "border-ink bg-faint" : "border-soft"}`}>
          <span className="block font-bold">{image ? image.name : "Choose a scan or photo, or drop it here"}</span>
          <span className="block text-[13px] text-soft">PNG, JPEG, WebP or TIFF, straight from above, 300 dpi is best</span>
          <input type="file" className="sr-only" aria-label="Scan or photo" accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,image/*"
            onChange={(event) => choose(event.target.files?.[0])} />
        </label>
        <label className="block">Title
          <input className="field mt-1" value={title} onChange={(event) => setTitle(event.target.value)} required maxLength={120} />
        </label>
        <div>
          <label htmlFor="paper-width">Width of the picture on paper</label>
          <div className="mt-1 flex gap-2">
            <input id="paper-width" className="field" value={width} onChange={(event) => setWidth(event.target.value)}
              placeholder={unit === "in" ? "for example 4 1/4" : "for example 10,8"} inputMode="text" />
            <select aria-label="Unit" className="rounded border border-soft px-2" value={unit}
              onChange={(event) => { setUnit(event.target.value as Unit); chooseUnit(event.target.value as Unit); }}>
              <option value="in">inches</option>
              <option value="cm">cm</option>
            </select>
          </div>
          <p className="mt-1 text-[13px] text-soft">Leave it empty if the file knows its own resolution.</p>
        </div>
        {said && <p role="alert" className="rounded bg-ink px-3 py-2 text-sheet">{said}</p>}
        {addPiece.isPending && <p role="status" className="text-soft">Reading the picture and finding its regions. This takes a few seconds.</p>}
        <div className="flex justify-end gap-3">
          <Button onClick={close} disabled={addPiece.isPending}>Cancel</Button>
          <Button type="submit" kind="main" busy={addPiece.isPending}>Find the regions</Button>
        </div>
      </form>
    </Ask>
  );
}
