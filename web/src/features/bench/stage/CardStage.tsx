import { useCallback, useEffect, useRef, useState, type MouseEvent } from "react";

import { CropOnPicture } from "@/features/card";
import { matesOf, pictureOf, thingsOf } from "@/shared/api";
import { Button, placeIn } from "@/shared/ui";
import { useTurnLamp } from "../api";
import { Barrier } from "./Barrier";
import { BodyHandles } from "./BodyHandles";
import { BorderGlass } from "../regions/Borders";
import { useBenchAddress, useHand, usePiece, useSelected, useTake } from "../bench";
import { GlowMarkers } from "./GlowMarkers";
import { GroundHandles } from "./GroundHandles";
import { boxesOf, drawOutlines, labelAt, type Labels } from "./labels";
import { Lasso } from "./Lasso";
import { LampShine, LampTrack } from "./LampTrack";
import { useLabels } from "./useLabels";
import { useLampDial } from "./useLampDial";
import { useLivePicture } from "./useLivePicture";
import { useZoom } from "./useZoom";
import { onto, type Zoom } from "./zoom";
import { ZoomButtons } from "./ZoomButtons";

/** Between the card and the bench's edges: the lamp's track runs there. */
const MARGIN = { across: 84, down: 51 };
const TRACK = { across: 66, down: 29 };
const INSET = 22;
/** Views that the lamp changes. */
const LIT = ["values", "coloured", "clay"];

/** The card on the bench with the lamp's track around it. */
export function CardStage() {
  const piece = usePiece();
  const tool = useHand((hand) => hand.tool);
  const { view, section } = useBenchAddress();
  const stage = useRef<HTMLDivElement>(null);
  const surface = useRef<HTMLCanvasElement>(null);
  const room = useRoom(stage);
  const labels = useLabels();
  const turnLamp = useTurnLamp(piece.id);

  const across = (room.width - 2 * MARGIN.across - 28) / piece.width_mm;
  const scale = Math.max(0.2, Math.min(across, (room.height - 2 * MARGIN.down) / piece.height_mm));
  const card = { width: piece.width_mm * scale, height: piece.height_mm * scale };
  const track = { a: card.width / 2 + TRACK.across, b: card.height / 2 + TRACK.down, inset: INSET };
  const centre = useCallback(() => {
    const box = stage.current?.getBoundingClientRect();
    return box ? { x: box.left + box.width / 2, y: box.top + box.height / 2 } : null;
  }, []);
  const dial = useLampDial({ lamp: piece.light.lamp, track, centre, onTurn: turnLamp.mutateAsync });

  const path =
    dial.moving && LIT.includes(view)
      ? pictureOf.live(piece.id, view, dial.shown)
      : pictureOf.kept(piece.id, piece.version, view);
  const picture = useLivePicture(surface, path);

  return (
    <div ref={stage} className="relative min-h-0 grow overflow-hidden" data-testid="stage">
      <LampShine track={track} lamp={dial.shown} room={room} />
      <Window labels={labels} size={card}>
        <canvas
          ref={surface}
          className="absolute inset-0 size-full"
          role="img"
          aria-label={`${piece.stamp.title}, ${view}`}
        />
        <Outlines labels={labels} />
        {view === "regions" && <ThingNumbers />}
        {section === "card" ? <CropOnPicture piece={piece} /> : <GlowMarkers />}
        {tool === "hand" && section !== "card" && <BodyHandles />}
        {tool === "hand" && section !== "card" && <GroundHandles />}
        {tool === "barrier" && <Barrier labels={labels} />}
        {tool === "lasso" && <Lasso />}
        {tool === "border" && <BorderGlass labels={labels} />}
        {picture.busy && !picture.drawn && (
          <p role="status" className="absolute inset-x-0 top-1/2 text-center">
            Modelling light and form …
          </p>
        )}
        {picture.busy && picture.drawn && (
          <p
            role="status"
            className="on-dark absolute bottom-2 left-2 rounded bg-ink/85 px-2 py-1 text-[13px] text-sheet"
          >
            Working out the light …
          </p>
        )}
        {picture.error && (
          <div role="alert" className="absolute inset-x-4 top-4 rounded bg-sheet p-3 shadow-lg">
            {picture.error}{" "}
            <Button kind="quiet" onClick={picture.retry}>
              Try again
            </Button>
          </div>
        )}
      </Window>
      <LampTrack track={track} dial={dial} room={room} />
    </div>
  );
}

type SurfaceProps = { labels: Labels | undefined; size: { width: number; height: number }; children: React.ReactNode };

/** What the picture is seen through: as large as the card, however closely one looks. */
function Window({ labels, size, children }: SurfaceProps) {
  const piece = usePiece();
  const frame = useRef<HTMLDivElement>(null);
  const selectOnly = useHand((hand) => hand.selectOnly);
  const { zoom, setZoom, wasDrag, panProps } = useZoom(frame);

  function goUpTo(event: MouseEvent<HTMLElement>) {
    const { x, y } = placeIn(event.currentTarget, event);
    const label = labels ? labelAt(labels, x, y) : 0;
    if (!labels || !label) return;
    const mates = matesOf(piece.regions.list, label);
    selectOnly(mates);
    const boxes = mates.map((mate) => boxesOf(labels).get(mate));
    const known = boxes.filter((box) => box !== undefined);
    setZoom(
      onto({
        left: Math.min(...known.map((box) => box.left)) / labels.width,
        top: Math.min(...known.map((box) => box.top)) / labels.height,
        right: Math.max(...known.map((box) => box.right)) / labels.width,
        bottom: Math.max(...known.map((box) => box.bottom)) / labels.height,
      }),
    );
  }

  return (
    <>
      <div
        ref={frame}
        className="absolute left-1/2 top-1/2 -translate-x-1/2 -translate-y-1/2 touch-none overflow-hidden bg-sheet shadow-[0_10px_30px_rgb(0_0_0/0.35)]"
        style={size}
        {...panProps}
        onClickCapture={(event) => {
          if (wasDrag()) event.stopPropagation();
        }}
      >
        <Surface labels={labels} size={size} zoom={zoom} onDoubleClick={goUpTo}>
          {children}
        </Surface>
      </div>
      <ZoomButtons zoom={zoom} onZoom={setZoom} />
    </>
  );
}

/** The card itself: what lies under the pointer is hovered and taken in hand. The keyboard's way is the list. */
function Surface({
  labels,
  size,
  zoom,
  onDoubleClick,
  children,
}: SurfaceProps & { zoom: Zoom; onDoubleClick: (event: MouseEvent<HTMLElement>) => void }) {
  const piece = usePiece();
  const take = useTake();
  const hover = useHand((hand) => hand.hover);
  const hovered = useHand((hand) => hand.hovered);
  const found = piece.regions.list.find((region) => region.label === hovered);
  const name = found?.thing || found?.name;

  const under = (event: MouseEvent<HTMLElement>) => {
    const { x, y } = placeIn(event.currentTarget, event);
    return labels ? labelAt(labels, x, y) : 0;
  };
  return (
    // By keys regions are taken in the list beside the picture.
    // eslint-disable-next-line jsx-a11y/click-events-have-key-events, jsx-a11y/no-static-element-interactions
    <div
      className="absolute"
      style={{
        width: size.width * zoom.times,
        height: size.height * zoom.times,
        left: -zoom.left * zoom.times * size.width,
        top: -zoom.top * zoom.times * size.height,
      }}
      data-testid="card"
      onDoubleClick={onDoubleClick}
      title={name}
      onMouseMove={(event) => hover(under(event))}
      onMouseLeave={() => hover(0)}
      onClick={(event) => {
        const label = under(event);
        if (label) take(label, event.shiftKey || event.ctrlKey || event.metaKey);
      }}
    >
      {children}
    </div>
  );
}

/** Lines round the regions in hand and the one under the pointer. Nothing else is drawn anew while it moves. */
function Outlines({ labels }: { labels: Labels | undefined }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const selected = useSelected();
  const hovered = useHand((hand) => hand.hovered);
  const { list } = usePiece().regions;
  const picked = selected.join();
  // A click would take the whole thing, and once that is in hand the one region.
  const mates = hovered ? matesOf(list, hovered) : [];
  const under = (mates.every((mate) => selected.includes(mate)) && hovered ? [hovered] : mates).join();
  useEffect(() => {
    const numbers = (text: string) => (text ? text.split(",").map(Number) : []);
    if (labels && canvas.current) drawOutlines(canvas.current, labels, numbers(picked), numbers(under));
  }, [labels, picked, under]);
  return <canvas ref={canvas} className="pointer-events-none absolute inset-0 size-full" aria-hidden />;
}

/** Every thing's number, on the largest of its regions: that of its first one. */
function ThingNumbers() {
  const piece = usePiece();
  const numbered = thingsOf(piece.regions.list).map((thing) => ({
    number: thing.regions[0]?.label,
    region: thing.regions.reduce((one, other) => (other.area_mm2 > one.area_mm2 ? other : one)),
  }));
  return (
    <div aria-hidden className="haloed pointer-events-none absolute inset-0 text-[12px] leading-none">
      {numbered
        .filter(({ region }) => region.area_mm2 > 12)
        .map(({ number, region }) => (
          <span
            key={region.label}
            className="absolute -translate-x-1/2 -translate-y-1/2"
            style={{ left: `${100 * region.anchor_x}%`, top: `${100 * region.anchor_y}%` }}
          >
            {number}
          </span>
        ))}
    </div>
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
