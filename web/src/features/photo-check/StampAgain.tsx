import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { papersQuery, tradeQuery, type PaperChange, type Piece, type StampedAgain } from "@/shared/api";
import { Button, counted } from "@/shared/ui";
import { useStampAgain, useTakeInstead } from "./api";
import { ColourPair } from "./ColourPair";
import { PhotoPick } from "./PhotoPick";

/** Another stamping of the same stamp: everything is carried onto it, and it lies on the shelf beside the first. */
export function StampAgain({ piece }: { piece: Piece }) {
  const own = useQuery(papersQuery);
  const [paper, setPaper] = useState("");
  const trade = useQuery(tradeQuery);
  const again = useStampAgain(piece.id);
  return (
    <section aria-label="The same stamp again">
      <h2 className="mb-1 text-xl">The same stamp again</h2>
      <p className="mb-3 text-[14px] text-soft">
        A scan or photo of another stamping: turned, on other paper, bent as rubber bends. Regions, things, grounds,
        light and recipe are carried over; another stamp is refused.
      </p>
      <PhotoPick
        name="Scan or photo of another stamping"
        words="Choose a scan or photo of another stamping"
        action="Carry everything over"
        busy={again.isPending}
        error={again.error?.message ?? ""}
        progress="Laying it on the first stamping and carrying the regions over. This takes some seconds."
        onGo={(image, corners) => again.mutate({ image, corners, paper })}
      >
        <label className="flex items-center gap-2">
          On
          <select className="field" value={paper} onChange={(event) => setPaper(event.target.value)}>
            <option value="">the same paper</option>
            {[...(trade.data?.papers ?? []), ...(own.data ?? [])].map((one) => (
              <option key={one.code} value={one.code}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
      </PhotoPick>
      {again.data && <Carried done={again.data} />}
    </section>
  );
}

function Carried({ done }: { done: StampedAgain }) {
  const nearer = done.changes.filter((one) => one.instead.length > 0);
  return (
    <div role="status" className="mt-3 border-l-2 border-ink pl-3">
      <p>
        Carried over.{" "}
        <Link to={`/pieces/${done.piece}`} className="font-bold underline underline-offset-4">
          Open the new piece
        </Link>
      </p>
      {done.warnings.length === 0 && <p>Nothing is missing and nothing is new in this stamping.</p>}
      <ul className="ml-5 list-disc">
        {done.warnings.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
      {nearer.length > 0 && (
        <details className="mt-1">
          <summary className="cursor-pointer">
            {counted(nearer.length, "ramp")} that would come nearer to how it looked
          </summary>
          {nearer.map((one) => (
            <Instead key={one.name} piece={done.piece} change={one} />
          ))}
        </details>
      )}
    </div>
  );
}

/** Swatches that come nearer to how a thing looked on the first paper. */
function Instead({ piece, change }: { piece: number; change: PaperChange }) {
  const take = useTakeInstead(piece);
  return (
    <p className="mt-1 flex items-center gap-2 text-[14px]">
      <ColourPair colours={[change.before_hex, change.after_hex]} words={["As it looked", "As it will look"]} />
      <span className="grow">
        {change.name}: {change.instead_names.join(", ")} would come within {change.left.toFixed(1)} of how it looked.
      </span>
      {take.isSuccess ? (
        <span role="status">Taken.</span>
      ) : (
        <Button className="shrink-0" busy={take.isPending} onClick={() => take.mutate(change)}>
          Take these
        </Button>
      )}
    </p>
  );
}
