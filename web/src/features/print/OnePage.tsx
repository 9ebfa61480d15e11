import type { CSSProperties } from "react";

import { useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";

import { api, pictureOf, pieceQueries, type OnePage as Page } from "@/shared/api";
import { Button, Failed, LampRose, swatchStyle, tell, UnitSwitch, useUnit, Waiting } from "@/shared/ui";

/** The recipe on one page: for the folder, for whoever asks which pens, for the same card next year. */
export function OnePage() {
  const id = Number(useParams().id);
  const recipe = Number(useSearchParams()[0].get("recipe")) || null;
  const { unit } = useUnit();
  const piece = useQuery(pieceQueries.detail(id));
  const page = useQuery({
    ...pieceQueries.onePage(id, unit, piece.data?.version ?? 0, recipe),
    enabled: piece.data !== undefined,
  });
  const error = piece.error ?? page.error;
  if (piece.data && page.data)
    return <Set id={id} version={piece.data.version} recipe={recipe} unit={unit} page={page.data} />;
  if (error) return <Failed error={error} onRetry={() => void Promise.all([piece.refetch(), page.refetch()])} />;
  return (
    <div className="flex min-h-dvh">
      <Waiting what="Writing the page" />
    </div>
  );
}

type Props = { id: number; version: number; recipe: number | null; unit: "in" | "cm"; page: Page };

function Set({ id, version, recipe, unit, page }: Props) {
  const which = recipe ? `&recipe=${recipe}` : "";
  const paper = unit === "in" ? "letter" : "a4";
  const drawing = recipe ? pictureOf.recipeView(id, recipe, "line") : pictureOf.kept(id, version, "line");
  const look = page.card
    ? `/pieces/${id}/card-look/?width_px=420&version=${version}${which}`
    : recipe
      ? pictureOf.recipe(id, recipe)
      : pictureOf.small(id, version);
  return (
    <div className="min-h-dvh bg-surround py-6 print:bg-sheet print:py-0">
      <nav
        aria-label="This page"
        className="mx-auto mb-4 flex max-w-[860px] flex-wrap items-center gap-x-5 gap-y-2 px-2 print:hidden"
      >
        <Link to={`/pieces/${id}`} className="underline underline-offset-4">
          Back to the bench
        </Link>
        <Link to={`/pieces/${id}/print?full=1${which}`} className="underline underline-offset-4">
          In full, pass by pass
        </Link>
        <UnitSwitch />
        <a
          href={api.url(`/pieces/${id}/one-page.pdf/?unit=${unit}&paper=${paper}${which}`)}
          download
          className="underline underline-offset-4"
        >
          As PDF
        </a>
        <a
          href={api.url(`/pieces/${id}/one-page.txt/?unit=${unit}${which}`)}
          download
          className="underline underline-offset-4"
        >
          As a text file
        </a>
        <Button kind="quiet" onClick={() => copy(page.text)}>
          Copy as text
        </Button>
        <span className="grow" />
        <Button kind="main" onClick={() => window.print()}>
          Print
        </Button>
      </nav>
      <main className="mx-auto max-w-[860px] bg-sheet p-8 text-[12px] leading-snug shadow-xl print:max-w-none print:p-0 print:text-[8px] print:leading-[1.22] print:shadow-none">
        <header className="mb-3 flex items-start justify-between border-b-2 border-ink pb-2">
          <div>
            <h1 className="text-[26px] print:text-[20px]">{page.title}</h1>
            <p>{page.version ? `Recipe, version ${page.version}` : "Working copy, not kept as a version yet"}</p>
          </div>
          <div className="flex items-center gap-3 text-right">
            <p>
              {page.light}
              {page.glows.map((glow) => (
                <span key={glow} className="block">
                  {glow}
                </span>
              ))}
            </p>
            <LampRose azimuth={page.azimuth_deg} clock={page.clock} size={52} />
          </div>
        </header>
        <div className="mb-3 grid grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)] gap-5">
          <div
            className="relative w-full self-start border border-line print:w-[min(100%,calc(2.7in*var(--ratio)))]"
            style={shapeOf(page)}
          >
            <img src={api.url(drawing)} alt={`${page.title}: the line drawing`} className="size-full" />
            {page.lettered.map((one) => (
              <span
                key={one.letter}
                aria-hidden
                className="absolute -translate-x-1/2 -translate-y-1/2 rounded-sm bg-sheet/85 px-0.5 text-[10px] font-bold leading-none print:text-[7px]"
                style={{ left: `${100 * one.x}%`, top: `${100 * one.y}%` }}
              >
                {one.letter}
              </span>
            ))}
          </div>
          <div>
            <img
              src={api.url(look)}
              alt={page.card ? `${page.title}: the finished card` : `${page.title}, coloured as planned`}
              className="mb-2 max-h-72 max-w-full print:max-h-[2.1in]"
            />
            <dl>
              {page.facts.map((one) => (
                <div key={one.name}>
                  <dt className="inline font-bold">{one.name}: </dt>
                  <dd className="inline">{one.value}</dd>
                </div>
              ))}
            </dl>
          </div>
        </div>
        <Heading>Things</Heading>
        <p>
          {page.lettered.map((one) => (
            <span key={one.letter}>
              <strong>{one.letter}</strong> {one.name}
              {one.count > 1 && ` (${one.count})`}{" "}
            </span>
          ))}
          {page.bare.length > 0 && (
            <>
              <strong>Left as paper:</strong> {page.bare.join(", ")}
            </>
          )}
        </p>
        <Heading>Ramps, palest first</Heading>
        <ul className="columns-2 gap-6">
          {page.ramps.map((ramp) => (
            <li key={ramp.letters.join()} className="break-inside-avoid">
              <strong>{ramp.letters.join(" ")}: </strong>
              {ramp.coats.map((coat, place) => (
                <span key={place}>
                  {place > 0 && "then "}
                  {coat.map((chip) => (
                    <Chip key={chip.code} {...chip} />
                  ))}
                </span>
              ))}
            </li>
          ))}
        </ul>
        <Heading>Swatches as measured: L* a* b*, D65</Heading>
        <ul className="columns-4 gap-4">
          {page.chips.map((chip) => (
            <li key={chip.code} className="break-inside-avoid whitespace-nowrap">
              <Chip {...chip} /> {chip.lab.map((value) => value.toFixed(1)).join(" ")}
            </li>
          ))}
        </ul>
        <Heading>Order</Heading>
        <p className="text-soft">B2: second swatch of B; +: while the one before is wet.</p>
        <p>
          {page.visits.map((visit) => (
            <span key={visit.numbers}>
              {visit.numbers} <strong>{visit.name}:</strong> {visit.stops};{" "}
            </span>
          ))}
        </p>
        {page.notes.map((one) => (
          <p key={one.name} className="mt-1 whitespace-pre-line">
            <strong>{one.name}:</strong> {one.value}
          </p>
        ))}
        <p className="mt-3 border-t border-line pt-1 text-soft">{page.caution}</p>
      </main>
    </div>
  );
}

/** As wide as there is room, and in print no higher than leaves room for the rest. */
function shapeOf({ width_px, height_px }: Page): CSSProperties {
  const ratio = width_px / height_px;
  return { aspectRatio: ratio, "--ratio": ratio } as CSSProperties;
}

function Heading({ children }: { children: string }) {
  return (
    <h2 className="mt-2 border-t border-line pt-1 text-[14px] print:mt-1 print:pt-0.5 print:text-[10px]">{children}</h2>
  );
}

function Chip({ name, hex }: { name: string; hex: string }) {
  return (
    <span className="mr-2 whitespace-nowrap">
      <span
        className="mr-0.5 inline-block size-2.5 print:size-2 border border-line bg-(--swatch) [print-color-adjust:exact]"
        style={swatchStyle(hex)}
      />
      {name}
    </span>
  );
}

function copy(text: string) {
  navigator.clipboard.writeText(text).then(
    () => tell("The list of pens and the order are on the clipboard."),
    () => tell("The browser would not copy it. Take it from the PDF.", "problem"),
  );
}
