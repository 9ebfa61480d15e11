import { useState } from "react";

import type { DrawerDetail, SwatchRecord } from "@/shared/api";
import { Button, swatchStyle } from "@/shared/ui";
import { useReader, useStoreMeasures } from "./api";

/** The colour reader, a simulated stand-in: white tile first, then an average of three reads. */
export function ReaderBox({ drawer, swatch }: { drawer: DrawerDetail; swatch: SwatchRecord }) {
  const reader = useReader(drawer.id);
  const store = useStoreMeasures(drawer.id);
  const [tile, setTile] = useState(false);
  const found = reader.data;
  return (
    <details className="mt-3 border-t border-line pt-2 text-[13px]">
      <summary>Colour reader (simulated)</summary>
      <div className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
        <Button
          kind="quiet"
          disabled={reader.isPending}
          onClick={() => reader.mutate(null, { onSuccess: () => setTile(true) })}
        >
          White tile
        </Button>
        <Button kind="quiet" disabled={reader.isPending} onClick={() => reader.mutate(swatch.id)}>
          Read {swatch.name}
        </Button>
      </div>
      {tile && !found?.lab && !reader.error && <p role="status">The tile was seen. Now hold it on the swatch.</p>}
      {reader.error && <p role="alert">{reader.error.message}</p>}
      {found?.lab && found.hex && (
        <p className="mt-1 flex items-center gap-2">
          <span className="size-6 border border-line bg-(--swatch)" style={swatchStyle(found.hex)} aria-hidden />
          {found.lab.map((value) => value.toFixed(1)).join(" · ")}, off by {found.difference?.toFixed(1)}
          <Button
            kind="quiet"
            busy={store.isPending}
            onClick={() =>
              store.mutate(
                {
                  measured: "reader",
                  paper: swatch.paper ?? "smooth-white",
                  values: [{ code: swatch.code, lab: found.lab ?? [], second: null }],
                },
                { onSuccess: () => reader.reset() },
              )
            }
          >
            Keep it
          </Button>
        </p>
      )}
    </details>
  );
}
