import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { CardSection, useNoteCard } from "@/features/card";
import {
  nameOf,
  pieceQueries,
  thingsOf,
  tradeQuery,
  type LaidCard,
  type Piece,
  type Plan,
  type Trade,
} from "@/shared/api";
import { counted, MakingList, minutes, sizeWords, useUnit, type Unit } from "@/shared/ui";
import { useDescribeFinish } from "./api";
import { usePiece, SECTIONS, type Section } from "./bench";
import { ColoursSection } from "./colours/ColoursSection";
import { LightSection } from "./light/LightSection";
import { NotesField } from "./NotesField";
import { OrderSection } from "./order/OrderSection";
import { RegionsSection } from "./regions/RegionsSection";
import { StampSection } from "./stamp/StampSection";
import { RunsBox } from "./order/RunsBox";
import { TouchesBox } from "./order/TouchesBox";

const NAMES: Record<Section, string> = {
  stamp: "Stamp",
  regions: "Regions",
  light: "Light",
  colours: "Colours",
  order: "Order",
  finish: "Finish",
  card: "Card",
};

/** The recipe sheet: reads like the finished record; the open section is the one being worked on. */
export function RecipeSheet({ section, onSection }: { section: Section; onSection: (section: Section) => void }) {
  const piece = usePiece();
  const trade = useQuery(tradeQuery).data;
  const plan = useQuery(pieceQueries.plan(piece.id, piece.version, piece.latest_recipe));
  const finish = useDescribeFinish(piece.id);
  const noteCard = useNoteCard(piece.id);
  const { unit } = useUnit();
  const laid = useQuery({ ...pieceQueries.card(piece.id, piece.version), enabled: piece.card.spec !== null }).data;
  const summaries = { ...summarise(piece, plan.data, trade), card: cardWords(piece.card, laid, unit) };
  const bodies: Record<Section, ReactNode> = {
    stamp: trade && <StampSection trade={trade} />,
    regions: <RegionsSection />,
    light: <LightSection />,
    colours: trade && <ColoursSection trade={trade} />,
    order: trade && <OrderSection trade={trade} plan={plan.data} error={plan.error} />,
    finish: (
      <>
        {trade && <TouchesBox trade={trade} plan={plan.data} />}
        <MakingList steps={plan.data?.making ?? []} />
        <RunsBox plan={plan.data} />
        <NotesField
          label="Finishing touches"
          hint="Where each goes; what to change next time."
          notes={piece.finish.notes}
          onKeep={(notes) => finish.mutate({ notes })}
        />
      </>
    ),
    card: (
      <CardSection
        piece={piece}
        notes={
          <NotesField
            label="Notes on the card"
            hint="What the sizes do not say."
            notes={piece.card.notes}
            onKeep={(notes) => noteCard.mutate(notes)}
          />
        }
      />
    ),
  };
  return (
    <section
      aria-label="Recipe sheet"
      className="min-h-0 overflow-y-auto bg-sheet px-6 pb-8 pt-5 shadow-[-6px_0_24px_rgb(0_0_0/0.18)] min-[1024px]:mr-5"
    >
      <h1 className="text-[26px] leading-tight">{piece.stamp.title}</h1>
      <p className="mb-3 text-soft">{state(piece)}</p>
      {SECTIONS.map((name, index) => (
        <section key={name} className={section === name ? "border-t-2 border-ink pb-4" : "border-t border-line"}>
          <h2 className="font-sans text-base font-normal tracking-normal">
            <button
              type="button"
              aria-expanded={section === name}
              aria-controls={`part-${name}`}
              onClick={() => onSection(name)}
              className="grid w-full grid-cols-[1.6rem_5.4rem_1fr] items-baseline py-2 text-left hover:bg-faint"
            >
              <span className="font-display font-bold">{index + 1}</span>
              <span className="font-display font-bold">{NAMES[name]}</span>
              <span className={summaries[name].blank ? "text-soft italic" : ""}>{summaries[name].text}</span>
            </button>
          </h2>
          {section === name && (
            <div id={`part-${name}`} className="pt-1">
              {bodies[name]}
            </div>
          )}
        </section>
      ))}
    </section>
  );
}

function state(piece: Piece): string {
  if (piece.latest_recipe === null) return "Working copy, not kept yet";
  return piece.changed_since_recipe
    ? `Working on version ${piece.latest_recipe + 1}`
    : `As kept in version ${piece.latest_recipe}`;
}

function regionWords(piece: Piece): string {
  const regions = piece.regions.list;
  const things = thingsOf(regions).length;
  return things < regions.length
    ? `${counted(things, "thing")} of ${regions.length} regions`
    : counted(regions.length, "region");
}

function cardWords({ spec, notes }: Piece["card"], laid: LaidCard | null | undefined, unit: Unit): Summary {
  if (!spec) return notes ? { text: notes } : { text: "No size chosen yet", blank: true };
  const front = laid?.layers[0]?.place;
  const size = front ? `${sizeWords(front.width, unit)} by ${sizeWords(front.height, unit)}` : "…";
  return { text: spec.greeting?.text ? `${size}, “${spec.greeting.text}”` : size };
}

type Summary = { text: string; blank?: boolean };

function summarise(
  piece: Piece,
  plan: Plan | undefined,
  trade: Trade | undefined,
): Record<Exclude<Section, "card">, Summary> {
  const bare = piece.regions.list.filter((region) => region.left_as_paper).length;
  const open = piece.regions.list.filter((region) => region.coats.length === 0 && !region.left_as_paper).length;
  return {
    stamp: {
      text: `${piece.stamp.line_said}, on ${piece.stamp.paper_name.toLowerCase()}${piece.stamp.fit.length ? " (see the note)" : ""}`,
    },
    regions: { text: `${regionWords(piece)}${bare ? `, ${bare} left as paper` : ""}` },
    light: {
      text: `From ${piece.light.lamp.clock}, ${Math.round(piece.light.lamp.elevation_deg)}° high${piece.light.glows.length ? `, ${counted(piece.light.glows.length, "glow")}` : ""}`,
    },
    colours: piece.colours.pen_count
      ? {
          text: `${piece.colours.media.map((medium) => nameOf(trade?.media, medium)).join(", ")}; ${counted(piece.colours.pen_count, "swatch", "swatches")}${open ? `, ${open} regions open` : ""}`,
        }
      : { text: `${nameOf(trade?.media, piece.colours.medium)}, no colours chosen yet`, blank: true },
    order: plan?.passes.length
      ? {
          text: `${plan.school}: ${plan.passes.length} passes, ${plan.pen_changes} pen changes, ${minutes(plan.duration_s)}`,
        }
      : { text: plan ? "Follows once there are colours" : "Working out the order …", blank: true },
    finish:
      piece.finish.touches.length || piece.finish.notes
        ? { text: [...(plan?.after ?? []).map((step) => step.name), piece.finish.notes].filter(Boolean).join(" · ") }
        : { text: "Nothing noted", blank: true },
  };
}
