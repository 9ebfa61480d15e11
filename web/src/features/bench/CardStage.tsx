import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState, type MouseEvent } from "react";

import { Button } from "@/shared/ui";
import { pieceQueries, useTurnLamp } from "./api";
import { Barrier } from "./Barrier";
import { BodyHandles } from "./BodyHandles";
import { BorderGlass } from "./Borders";
import { useBench } from "./bench";
import { drawOutlines, labelAt } from "./labels";
import { GlowMarkers } from "./GlowMarkers";
import { Lasso } from "./Lasso";
import { LampShine, LampTrack } from "./LampTrack";
import { useLampDial } from "./useLampDial";
import { useLivePicture } from "./useLivePicture";

const MARGIN = 84;
const INSET = 22;

/** The card on the bench with the lamp's track around it. */
export function CardStage() {
  const { piece, selected, select, hovered, hover, tool, view } = useBench();
  const stage = useRef<HTMLDivElement>(null);
  const surface = useRef<HTMLCanvasElement>(null);
  const outlines = useRef<HTMLCanvasElement>(null);
  const room = useRoom(stage);
  const regionKey = piece.regions.map((region) => region.label).join();
  const labels = useQuery(pieceQueries.labels(piece.id, regionKey)).data;
  const turnLamp = useTurnLamp(piece.id);

  const scale = Math.max(0.2, Math.min((room.width - 2 * MARGIN - 28) / piece.width_mm, (room.height - 2 * MARGIN + 34) / piece.height_mm));
  const card = { width: piece.width_mm * scale, height: piece.height_mm * scale };
  const track = { a: card.width / 2 + MARGIN - 18, b: card.height / 2 + MARGIN - 42, inset: INSET };
  const centre = useCallback(() => {
    const box = stage.current?.getBoundingClientRect();
    return box ? { x: box.left + box.width / 2, y: box.top + box.height / 2 } : null;
  }, []);
  const dial = useLampDial({ lamp: piece.lamp, track, centre, onTurn: turnLamp.mutateAsync });

  const path = dial.moving && (view === "values" || view === "coloured")
    ? `/pieces/${piece.id}/picture/?view=${view}&live=true&azimuth_deg=${dial.shown.azimuth_deg}&elevation_deg=${dial.shown.elevation_deg}`
    : `/pieces/${piece.id}/picture/?view=${view}&version=${piece.version}`;
  const picture = useLivePicture(surface, path);

  useEffect(() => {
    if (labels && outlines.current) drawOutlines(outlines.current, labels, selected, hovered);
  }, [labels, selected, hovered]);

  const under = (event: MouseEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    return labels ? labelAt(labels, (event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height) : 0;
  };
  const name = piece.regions.find((region) => region.label === hovered)?.name;

  return (
    <div ref={stage} className="relative min-h-0 grow overflow-hidden" data-testid="stage">
      <LampShine track={track} lamp={dial.shown} room={room} />
      {/* The picture's own keyboard way is the list of regions on the sheet. */}
      <div className="absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 bg-sheet shadow-[0_10px_30px_rgb(0_0_0/0.35)]"
        style={card} data-testid="card" title={name}
        onMouseMove={(event) => hover(under(event))} onMouseLeave={() => hover(0)}
        onClick={(event) => {
          const label = under(event);
          if (label) select(label, event.shiftKey || event.ctrlKey || event.metaKey);
        }}>
        <canvas ref={surface} className="absolute inset-0 size-full" role="img" aria-label={`${piece.title}, ${view}`} />
        <canvas ref={outlines} className="pointer-events-none absolute inset-0 size-full" aria-hidden />
        {view === "regions" && <RegionNumbers />}
        <GlowMarkers />
        {tool === "hand" && <BodyHandles />}
        {tool === "barrier" && <Barrier labels={labels} />}
        {tool === "lasso" && <Lasso />}
        {tool === "border" && <BorderGlass labels={labels} />}
        {picture.busy && !picture.drawn && <p role="status" className="absolute inset-x-0 top-1/2 text-center">Modelling light and form …</p>}
        {picture.busy && picture.drawn && <p role="status" className="on-dark absolute bottom-2 left-2 rounded bg-ink/85 px-2 py-1 text-[13px] text-sheet">Working out the light …</p>}
        {picture.error && (
          <div role="alert" className="absolute inset-x-4 top-4 rounded bg-sheet p-3 shadow-lg">
            {picture.error} <Button kind="quiet" onClick={picture.retry}>Try again</Button>
          </div>
        )}
      </div>
      <LampTrack track={track} dial={dial} room={room} />
    </div>
  );
}

function RegionNumbers() {
  const { piece } = useBench();
  return (
    <svg aria-hidden className="pointer-events-none absolute inset-0 size-full" viewBox={`0 0 ${piece.width_mm} ${piece.height_mm}`}>
      {piece.regions.filter((region) => region.area_mm2 > 12).map((region) => (
        <text key={region.label} x={region.anchor_x * piece.width_mm} y={region.anchor_y * piece.height_mm} fontSize="2.7" textAnchor="middle" dominantBaseline="central"
          fill="#161616">{region.label}</text>
      ))}
    </svg>
  );
}

function useRoom(element: React.RefObject<HTMLElement | null>) {
  const [room, setRoom] = useState({ width: 760, height: 600 });
  useEffect(() => {
    if (!element.current) return;
    const watch = new ResizeObserver(([entry]) => {
      if (entry) setRoom({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    watch.observe(element.current);
    return () => watch.disconnect();
  }, [element]);
  return room;
}
