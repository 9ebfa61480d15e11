import { useState } from "react";

import { type DrawerDetail } from "@/shared/api";
import { Ask, Button, counted, FileButton, Refusal, tell } from "@/shared/ui";
import { useImportTable, usePreviewTable, type Table } from "./api";

const KINDS = { new: "new", changes: "changes", same: "as it is", bad: "left out" };

/** A CSV, a GPL palette or pasted cells: shown row by row before anything is stored. */
export function ImportAsk({ drawer, open, onClose }: { drawer: DrawerDetail; open: boolean; onClose: () => void }) {
  const [table, setTable] = useState<Table | null>(null);
  const [text, setText] = useState("");
  const preview = usePreviewTable(drawer.id);
  const store = useImportTable(drawer.id);

  function look(next: Table) {
    setTable(next);
    preview.mutate(next);
  }

  function close() {
    if (store.isPending) return;
    setTable(null);
    setText("");
    preview.reset();
    onClose();
  }

  const found = preview.data;
  const error = preview.error;
  return (
    <Ask open={open} onClose={close} title={`Bring swatches into ${drawer.name}`} wide>
      <div className="flex flex-col gap-3">
        <FileButton name="Table" accept=".csv,.gpl,.txt,.tsv,text/*" look="drop" onFile={look}>
          {table instanceof File ? table.name : "Choose a CSV file or a GPL palette"}
        </FileButton>
        <label className="block">
          Or paste cells: code, name, L, a, b (or code, name, hex)
          <textarea
            rows={4}
            className="field mt-1 font-mono text-[13px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
        {text.trim() && (
          <div>
            <Button busy={preview.isPending} onClick={() => look(text)}>
              Look at what was pasted
            </Button>
          </div>
        )}
        {preview.isPending && (
          <p role="status" className="text-soft">
            Reading the table …
          </p>
        )}
        <Refusal error={error} />
        {found && (
          <>
            <p role="status">
              {counted(found.new, "new swatch", "new swatches")}, {found.changes} changed, {found.same} as they are,{" "}
              <strong>{found.bad} left out</strong>.
            </p>
            <div className="max-h-64 overflow-y-auto border-y border-line">
              <table className="w-full text-[13px]" aria-label="Rows of the table">
                <thead>
                  <tr className="text-left text-soft">
                    <th className="font-normal">Line</th>
                    <th />
                    <th className="font-normal">Code</th>
                    <th className="font-normal">Name</th>
                    <th className="font-normal">What happens</th>
                  </tr>
                </thead>
                <tbody>
                  {found.rows.map((row) => (
                    <tr key={row.line} className={`border-t border-faint ${row.kind === "bad" ? "bg-faint" : ""}`}>
                      <td className="py-0.5">{row.line}</td>
                      <td>
                        {row.hex && (
                          <span className="block size-4 border border-line" style={{ background: row.hex }} />
                        )}
                      </td>
                      <td>{row.code}</td>
                      <td>{row.name}</td>
                      <td>{row.kind === "bad" ? <strong>{row.problem}</strong> : KINDS[row.kind]}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={close}>Cancel</Button>
          <Button
            kind="main"
            busy={store.isPending}
            disabled={!found || !table || found.new + found.changes === 0}
            onClick={() =>
              table &&
              store.mutate(table, {
                onSuccess: () => {
                  tell(`Brought in ${counted((found?.new ?? 0) + (found?.changes ?? 0), "swatch", "swatches")}.`);
                  close();
                },
              })
            }
          >
            Store {found ? found.new + found.changes : ""}
          </Button>
        </div>
      </div>
    </Ask>
  );
}
