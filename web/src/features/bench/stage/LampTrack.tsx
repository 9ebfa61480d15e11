import { clock, lampToPoint, trackPath, trackReach, type Track } from "./lampGeometry";
import type { Lamp } from "@/shared/api";
import type { useLampDial } from "./useLampDial";

type Room = { width: number; height: number };
type Props = { track: Track; dial: ReturnType<typeof useLampDial>; room: Room };

const HOURS = [
  { at: 0, name: "12" },
  { at: 90, name: "3" },
  { at: 180, name: "6" },
  { at: 270, name: "9" },
];

/** The lamp on its track round the card: along the track for direction, outwards for a low lamp, inwards for a high. */
export function LampTrack({ track, dial, room }: Props) {
  const { shown } = dial;
  const spot = lampToPoint(track, shown.azimuth_deg, shown.elevation_deg);
  const middle = `translate(${room.width / 2} ${room.height / 2})`;
  const angle = (shown.azimuth_deg * Math.PI) / 180;
  const words = `${clock(shown.azimuth_deg)}, ${Math.round(shown.elevation_deg)}° high`;
  const left = spot.x < 0;
  const beside = Math.abs(spot.x) < room.width / 2 - 96;
  const label = beside
    ? { x: spot.x + (left ? -28 : 28), y: spot.y, anchor: left ? ("end" as const) : ("start" as const) }
    : {
        x: Math.sign(spot.x) * Math.min(Math.abs(spot.x), room.width / 2 - 34),
        y: spot.y + (spot.y > 0 ? -42 : 36),
        anchor: "middle" as const,
      };
  return (
    <>
      <input
        type="range"
        {...dial.inputProps}
        aria-label="Lamp direction"
        aria-valuetext={`From ${words}`}
        className="peer sr-only"
      />
      <svg
        className="absolute inset-0 pointer-events-none size-full touch-none outline-none [--ring:transparent] peer-focus-visible:[--ring:#161616]"
        aria-hidden
      >
        <g transform={middle}>
          <path d={trackPath(track, 0)} fill="none" stroke="#161616" strokeOpacity="0.5" strokeWidth="1.5" />
          <path d={trackPath(track, 1)} fill="none" stroke="#161616" strokeOpacity="0.22" />
          {HOURS.map((hour) => {
            const far = trackReach(track, hour.at, 0) + 13;
            const turn = (hour.at * Math.PI) / 180;
            return (
              <text
                key={hour.name}
                x={far * Math.sin(turn)}
                y={-far * Math.cos(turn)}
                textAnchor="middle"
                dominantBaseline="central"
                fontSize="13"
              >
                {hour.name}
              </text>
            );
          })}
          <path
            d={trackPath(track, 0.5)}
            fill="none"
            stroke="transparent"
            strokeWidth="46"
            className="pointer-events-auto cursor-pointer"
            data-testid="track"
            {...dial.dialProps}
          />
          <line
            x1={spot.x - 20 * Math.sin(angle)}
            y1={spot.y + 20 * Math.cos(angle)}
            x2={spot.x - 40 * Math.sin(angle)}
            y2={spot.y + 40 * Math.cos(angle)}
            stroke="#161616"
            strokeWidth="2"
          />
          <g
            transform={`translate(${spot.x} ${spot.y})`}
            className="pointer-events-auto cursor-grab active:cursor-grabbing"
            data-testid="lamp"
            {...dial.dialProps}
          >
            <circle r="25" fill="none" stroke="var(--ring)" strokeWidth="3" />
            <circle r="19" fill="var(--color-lamp)" stroke="#161616" strokeWidth="2" />
            <circle r="6" fill="#fff" />
          </g>
          <g
            transform={`translate(${label.x} ${label.y})`}
            textAnchor={label.anchor}
            fontSize="14"
            fill="#161616"
            className="pointer-events-none"
          >
            <text y="-3" fontWeight="700">
              {clock(shown.azimuth_deg)}
            </text>
            <text y="14">{Math.round(shown.elevation_deg)}° high</text>
          </g>
        </g>
      </svg>
    </>
  );
}

/** The lamp's shine on the bench. It lies under the card: colours are judged there, so nothing may tint them. */
export function LampShine({ track, lamp, room }: { track: Track; lamp: Lamp; room: Room }) {
  const spot = lampToPoint(track, lamp.azimuth_deg, lamp.elevation_deg);
  const place = `${room.width / 2 + spot.x}px ${room.height / 2 + spot.y}px`;
  return (
    <div
      aria-hidden
      className="pointer-events-none absolute inset-0"
      style={{
        background: `radial-gradient(circle at ${place}, rgb(255 255 255 / ${0.5 - lamp.ambient / 3}), transparent 300px)`,
      }}
    />
  );
}
