import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";

import {
  api,
  nameOf,
  pictureOf,
  pieceQueries,
  stintsOf,
  thingsOf,
  tradeQuery,
  type Piece,
  type Plan,
  type Region,
} from "@/shared/api";
import {
  Button,
  Failed,
  LampRose,
  length,
  MaskLine,
  minutes,
  RampChips,
  swatchStyle,
  timesFrom,
  useUnit,
  Waiting,
} from "@/shared/ui";

/** The recipe in full: picture, lamp, regions with their swatches, and every pass by its number. */
export function InFull() {
  const id = Number(useParams().id);
  const recipe = Number(useSearchParams()[0].get("recipe"));
  return recipe ? <KeptPage id={id} recipe={recipe} /> : <WorkingPage id={id} />;
}

function KeptPage({ id, recipe }: { id: number; recipe: number }) {
  const kept = useQuery(pieceQueries.kept(id, recipe));
  if (kept.data) return <Page {...kept.data} recipe={recipe} />;
  if (kept.error) return <Failed error={kept.error} onRetry={() => void kept.refetch()} />;
  return (
    <div className="flex min-h-dvh">
      <Waiting what="Writing the page" />
    </div>
  );
}

function WorkingPage({ id }: { id: number }) {
  const piece = useQuery(pieceQueries.detail(id));
  const plan = useQuery({
    ...pieceQueries.plan(id, piece.data?.version ?? 0, piece.data?.latest_recipe ?? null),
    enabled: piece.data !== undefined,
  });
  const error = piece.error ?? plan.error;
  if (piece.data && plan.data) return <Page piece={piece.data} plan={plan.data} />;
  if (error) return <Failed error={error} onRetry={() => void Promise.all([piece.refetch(), plan.refetch()])} />;
  return (
    <div className="flex min-h-dvh">
      <Waiting what="Writing the page" />
    </div>
  );
}

type Line = { name: string; regions: [Region, ...Region[]] };

/** Every thing with its ramp once; a region of it that was given another ramp has a line of its own. */
function colouredAlike(piece: Piece): Line[] {
  const lines: Line[] = [];
  for (const thing of thingsOf(piece.regions.list)) {
    const byRamp = new Map<string, Line>();
    for (const region of thing.regions) {
      if (!region.coats.length) continue;
      const ramp = region.coats.map((coat) => coat.ramp.swatches.map((swatch) => swatch.code).join()).join(" ");
      const known = byRamp.get(ramp);
      if (known) known.regions.push(region);
      else byRamp.set(ramp, { name: thing.name, regions: [region] });
    }
    for (const line of byRamp.values())
      lines.push(line.regions.length > 1 ? line : { ...line, name: line.regions[0].name });
  }
  return lines;
}

function Page({ piece, plan, recipe }: { piece: Piece; plan: Plan; recipe?: number }) {
  const trade = useQuery(tradeQuery).data;
  const { unit } = useUnit();
  const latest = piece.latest_recipe && !piece.changed_since_recipe ? piece.latest_recipe : null;
  const version = recipe ?? latest;
  const picture = recipe ? pictureOf.recipe(piece.id, recipe) : pictureOf.kept(piece.id, piece.version, "coloured");
  const coloured = colouredAlike(piece);
  const bare = piece.regions.list.filter((region) => region.left_as_paper);
  return (
    <div className="min-h-dvh bg-surround py-6 print:bg-sheet print:py-0">
      <div className="mx-auto mb-4 flex max-w-[820px] justify-between px-2 print:hidden">
        <span className="flex gap-5">
          <Link to={`/pieces/${piece.id}`} className="underline underline-offset-4">
            Back to the bench
          </Link>
          <Link
            to={`/pieces/${piece.id}/print${recipe ? `?recipe=${recipe}` : ""}`}
            className="underline underline-offset-4"
          >
            On one page
          </Link>
        </span>
        <Button kind="main" onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <main className="mx-auto max-w-[820px] bg-sheet p-10 text-[13px] shadow-xl print:max-w-none print:p-0 print:shadow-none">
        <header className="mb-4 flex items-start justify-between border-b-2 border-ink pb-3">
          <div>
            <h1 className="text-3xl">{piece.stamp.title}</h1>
            <p>{version ? `Recipe, version ${version}` : "Working copy, not kept as a version yet"}</p>
          </div>
          <div className="flex items-center gap-3 text-right">
            <p>
              Light from {piece.light.lamp.clock} ({Math.round(piece.light.lamp.azimuth_deg)}°),
              <br />
              {Math.round(piece.light.lamp.elevation_deg)}° high
              {piece.light.glows.length > 0 && `, ${piece.light.glows.length} in the picture`}
            </p>
            <LampRose azimuth={piece.light.lamp.azimuth_deg} clock={piece.light.lamp.clock} size={64} />
          </div>
        </header>
        <div className="mb-5 grid grid-cols-[minmax(0,300px)_1fr] gap-6">
          <img
            src={api.url(picture)}
            alt={`${piece.stamp.title}, coloured as planned`}
            className="w-full border border-line"
          />
          <dl className="grid h-fit grid-cols-[7rem_1fr] gap-y-1.5 [&>dt]:font-bold">
            <dt>Outline ink</dt>
            <dd>{piece.stamp.line_said}</dd>
            <dt>Paper</dt>
            <dd>{piece.stamp.paper_name}</dd>
            <dt>Image</dt>
            <dd>
              {length(piece.width_mm, unit)} by {length(piece.height_mm, unit)}
            </dd>
            <dt>Medium</dt>
            <dd>
              {piece.colours.media.map((medium) => nameOf(trade?.media, medium)).join(", ")}; {piece.colours.pen_count}{" "}
              swatches
            </dd>
            <dt>School</dt>
            <dd>{plan.school}</dd>
            <dt>Order</dt>
            <dd>
              {plan.passes.length} passes, {plan.pen_changes} pen changes, about {minutes(plan.duration_s)}
              {recipe === undefined && ` ${timesFrom(plan)}`}
            </dd>
            {plan.after.length > 0 && (
              <>
                <dt>Then</dt>
                <dd>
                  {plan.after
                    .map(
                      (step) => `${step.wait_s > 0 ? `wait ${minutes(step.wait_s)}, ` : ""}${step.name.toLowerCase()}`,
                    )
                    .join("; ")}
                </dd>
              </>
            )}
            {piece.finish.notes && (
              <>
                <dt>Finish</dt>
                <dd>{piece.finish.notes}</dd>
              </>
            )}
            {piece.card.notes && (
              <>
                <dt>Card</dt>
                <dd>{piece.card.notes}</dd>
              </>
            )}
            {bare.length > 0 && (
              <>
                <dt>Left as paper</dt>
                <dd>{bare.map((region) => region.name).join(", ")}</dd>
              </>
            )}
          </dl>
        </div>
        <h2 className="mb-1 text-xl">Things and swatches, light to dark</h2>
        <table className="mb-6 w-full">
          <thead>
            <tr className="border-b border-ink text-left">
              <th className="w-28">No.</th>
              <th>Thing</th>
              <th>Form</th>
              <th className="w-[46%]">Swatches</th>
            </tr>
          </thead>
          <tbody>
            {coloured.map(({ name, regions: [region, ...more] }) => (
              <tr key={region.label} className="break-inside-avoid border-b border-line align-top">
                <td className="py-1">{[region, ...more].map((one) => one.label).join(" ")}</td>
                <td className="py-1">
                  {name}
                  {more.length > 0 && ` (${more.length + 1})`}
                </td>
                <td className="py-1">{region.form}</td>
                <td className="py-1">
                  {region.coats.map((coat, place) => (
                    <span key={coat.medium} className="block">
                      {place > 0 && <span className="text-soft">then {nameOf(trade?.media, coat.medium)}</span>}
                      <RampChips swatches={coat.ramp.swatches} bare={coat.ramp.bare_hex} />
                    </span>
                  ))}
                  {region.accents.map((accent) => (
                    <span key={accent.kind} className="block text-soft">
                      {nameOf(trade?.accents, accent.kind)}: {accent.swatch.name}
                    </span>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <h2 className="mb-1 text-xl">Passes in order</h2>
        {plan.before.map((line) => (
          <p key={line} className="mb-1">
            <strong>First:</strong> {line}
          </p>
        ))}
        {piece.regions.stamping.length > 0 && (
          <div className="mb-2">
            <strong>If the things are stamped one by one:</strong>
            <ol className="ml-5 list-decimal">
              {piece.regions.stamping.map((step) => (
                <li key={step.what}>{step.what}</li>
              ))}
            </ol>
          </div>
        )}
        <ol className="columns-2 gap-6">
          {stintsOf(plan).map(({ first: pass, on, numbers }) => (
            <li
              key={pass.number}
              className="grid break-inside-avoid grid-cols-[3.2rem_1.1rem_1fr] gap-1.5 border-b border-faint py-1"
            >
              <span className="text-right font-bold">{numbers}</span>
              <span
                className="mt-0.5 size-4 border border-line bg-(--swatch) [print-color-adjust:exact]"
                style={swatchStyle(pass.swatch.hex)}
              />
              <span>
                <MaskLine plan={plan} before={pass.number} />
                {pass.wait_s > 0 && (
                  <em>
                    Wait {minutes(pass.wait_s)} for {pass.wait_for}.{" "}
                  </em>
                )}
                <strong>{pass.swatch.name}</strong> on {on}, {pass.zone}: {pass.how}.
              </span>
            </li>
          ))}
          {plan.handling.some((one) => one.before_pass > plan.passes.length) && (
            <li className="break-inside-avoid">
              <MaskLine plan={plan} before={plan.passes.length + 1} />
            </li>
          )}
        </ol>
        <p className="mt-6 border-t border-line pt-2 text-soft">
          Heat tools and solvents: follow the label and the safety data sheet, air the room, never heat wet alcohol ink.
          Times are estimates.
        </p>
      </main>
    </div>
  );
}
