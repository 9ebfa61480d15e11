import { Link } from "react-router";

import type { Medium, RunReadout } from "@/shared/api";
import { Button, Cautions, counted, minutes, swatchStyle, useSingleKeys } from "@/shared/ui";
import type { RunSync, RunSyncState } from "./runSync";
import { UnsentLine } from "./Unsent";

type Props = { run: RunReadout; state: RunSyncState; sync: RunSync; onBegin: () => void };

/** Before the first pass: what has to lie on the table. */
export function LayOut({ run, state, sync, onBegin }: Props) {
  useSingleKeys((key) => key === "PageDown" && onBegin());
  const low = run.swatches.filter((swatch) => swatch.running_low);
  const things = [
    `${counted(run.cards, "stamped card")} on ${run.paper.toLowerCase()}, the outline dry`,
    "a piece of the same paper to test each blend on",
    ...(run.masked ? [`${counted(run.cards, "mask")} of the figure, cut a hair inside the line`] : []),
    ...(run.taped ? ["low-tack tape for the lines between the grounds"] : []),
    ...run.media.flatMap((medium) => EXTRAS[medium]),
  ];
  return (
    <main className="mx-auto w-full max-w-[980px] grow px-4 py-6">
      <div className="rounded-sm bg-sheet p-5 shadow-xl sm:p-8">
        <h1 className="text-3xl">Lay out</h1>
        <p className="mb-5 text-soft">
          {run.title}, version {run.recipe_number}; {run.school}; {counted(run.passes, "pass", "passes")}, about{" "}
          {minutes(run.planned_s ?? 0)}
          {run.cards > 1 && ` for all ${run.cards}`}.
        </p>
        <h2 className="mb-1 text-lg">
          {counted(run.swatches.length, "swatch", "swatches")}, in the order of first use
        </h2>
        <ol className="mb-5 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-4">
          {run.swatches.map((swatch, place) => (
            <li
              key={`${swatch.medium} ${swatch.code}`}
              className="flex items-center gap-2 border-b border-faint py-1.5"
            >
              <span className="w-6 text-right text-soft">{place + 1}</span>
              <span className="h-7 w-10 rounded-sm border border-line bg-(--swatch)" style={swatchStyle(swatch.hex)} />
              <span>
                <strong>{swatch.name}</strong>
                {swatch.running_low && <span className="block text-[13px]">running low</span>}
              </span>
            </li>
          ))}
        </ol>
        {low.length > 0 && (
          <p className="mb-5 rounded bg-faint p-2">
            <strong>Running low:</strong> {low.map((swatch) => swatch.name).join(", ")}. Try them on scrap before you
            begin: a pale pen that has dried out spoils a blend quietly.
          </p>
        )}
        <h2 className="mb-1 text-lg">And</h2>
        <ul className="mb-5 ml-5 list-disc">
          {[...things, ...run.before].map((thing) => (
            <li key={thing}>{thing}</li>
          ))}
        </ul>
        <Cautions media={run.media} known={run.cautions ?? []} />
        <UnsentLine state={state} sync={sync} />
        <div className="sticky bottom-0 mt-3 flex flex-wrap items-center gap-4 bg-sheet py-3">
          <Button kind="main" className="min-h-14 grow px-6 text-xl" onClick={onBegin} autoFocus>
            Begin <span className="pointer-coarse:hidden">(Space)</span>
          </Button>
          <Link
            to={`/pieces/${run.piece_id}`}
            className="grid min-h-12 place-items-center underline underline-offset-4"
          >
            Back to the bench
          </Link>
        </div>
      </div>
    </main>
  );
}

const EXTRAS: Record<Medium, string[]> = {
  marker: ["a sheet beneath that may be stained", "a colourless blender for slips"],
  watercolour: ["two jars of water, a round brush, kitchen paper", "tape to hold the paper flat"],
  soluble: ["clean water, a round brush, kitchen paper"],
  pencil: ["a sharpener, a soft brush for the dust"],
  inkpad: ["one brush or foam for each family of colour", "kitchen paper to wipe the mask"],
};
