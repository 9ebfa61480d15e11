/** The lamp's track round the card: half its width and height, and how far within it the inner track runs; pixels. */
export type Track = { a: number; b: number; inset: number };

const CORNER = 110;
const LOW_DEG = 10;
const HIGH_DEG = 80;

/** Distance from the middle to a rounded rectangle of half sizes a, b in the direction `azimuthDeg` (0 up, clockwise). */
function reach(a: number, b: number, azimuthDeg: number): number {
  const angle = (azimuthDeg * Math.PI) / 180;
  const x = Math.abs(Math.sin(angle));
  const y = Math.abs(Math.cos(angle));
  const radius = Math.min(CORNER, a, b);
  const straight = Math.min(a / Math.max(x, 1e-9), b / Math.max(y, 1e-9));
  const cx = a - radius;
  const cy = b - radius;
  if (straight * x <= cx || straight * y <= cy) return straight;
  // Within the corner: where the ray meets the corner's circle.
  const along = x * cx + y * cy;
  return along + Math.sqrt(Math.max(0, along * along - cx * cx - cy * cy + radius * radius));
}

/** Outer track at share 0, inner at 1. */
export function trackReach({ a, b, inset }: Track, azimuthDeg: number, share: number): number {
  return (1 - share) * reach(a, b, azimuthDeg) + share * reach(a - inset, b - inset, azimuthDeg);
}

/** A low lamp stands on the outer track, a high one on the inner. */
export function lampToPoint(track: Track, azimuthDeg: number, elevationDeg: number): { x: number; y: number } {
  const share = Math.min(1, Math.max(0, (elevationDeg - LOW_DEG) / (HIGH_DEG - LOW_DEG)));
  const far = trackReach(track, azimuthDeg, share);
  const angle = (azimuthDeg * Math.PI) / 180;
  return { x: far * Math.sin(angle), y: -far * Math.cos(angle) };
}

export function pointToLamp(track: Track, x: number, y: number): { azimuth_deg: number; elevation_deg: number } {
  const azimuth = ((Math.atan2(x, -y) * 180) / Math.PI + 360) % 360;
  const outer = trackReach(track, azimuth, 0);
  const share = (outer - Math.hypot(x, y)) / (outer - trackReach(track, azimuth, 1));
  const elevation = LOW_DEG + Math.min(1, Math.max(0, share)) * (HIGH_DEG - LOW_DEG);
  return { azimuth_deg: Math.round(azimuth) % 360, elevation_deg: Math.round(elevation) };
}

export function trackPath(track: Track, share: number): string {
  const points = Array.from({ length: 181 }, (_, i) => {
    const far = trackReach(track, i * 2, share);
    const angle = (i * 2 * Math.PI) / 180;
    return `${(far * Math.sin(angle)).toFixed(1)} ${(-far * Math.cos(angle)).toFixed(1)}`;
  });
  return `M${points.join("L")}Z`;
}

/** "10:30" for 315°: the clock position to the nearest half hour, as the server says it too. */
export function clock(azimuthDeg: number): string {
  const halves = Math.round(azimuthDeg / 15) % 24;
  return `${Math.floor(halves / 2) || 12}:${halves % 2 ? "30" : "00"}`;
}
