/** The lamp's track round the card, as numbers: pixels from the card's middle, y down. */
export type Track = { a: number; b: number; inner: number };

const POWER = 3.4;
const LOW_DEG = 10;
const HIGH_DEG = 80;

/** Distance of the outer track from the middle in the direction `azimuth_deg` (0 up, clockwise). */
export function reach(track: Track, azimuthDeg: number): number {
  const angle = (azimuthDeg * Math.PI) / 180;
  const x = Math.abs(Math.sin(angle) / track.a) ** POWER;
  const y = Math.abs(Math.cos(angle) / track.b) ** POWER;
  return (x + y) ** (-1 / POWER);
}

/** A low lamp stands on the outer track, a high one on the inner. */
export function lampToPoint(track: Track, azimuthDeg: number, elevationDeg: number): { x: number; y: number } {
  const share = Math.min(1, Math.max(0, (elevationDeg - LOW_DEG) / (HIGH_DEG - LOW_DEG)));
  const far = reach(track, azimuthDeg) * (1 - share * (1 - track.inner));
  const angle = (azimuthDeg * Math.PI) / 180;
  return { x: far * Math.sin(angle), y: -far * Math.cos(angle) };
}

export function pointToLamp(track: Track, x: number, y: number): { azimuth_deg: number; elevation_deg: number } {
  const azimuth = ((Math.atan2(x, -y) * 180) / Math.PI + 360) % 360;
  const share = (1 - Math.hypot(x, y) / reach(track, azimuth)) / (1 - track.inner);
  const elevation = LOW_DEG + Math.min(1, Math.max(0, share)) * (HIGH_DEG - LOW_DEG);
  return { azimuth_deg: Math.round(azimuth) % 360, elevation_deg: Math.round(elevation) };
}

export function trackPath(track: Track, scale: number): string {
  const points = Array.from({ length: 121 }, (_, i) => {
    const far = reach(track, i * 3) * scale;
    const angle = (i * 3 * Math.PI) / 180;
    return `${(far * Math.sin(angle)).toFixed(1)} ${(-far * Math.cos(angle)).toFixed(1)}`;
  });
  return `M${points.join("L")}Z`;
}

/** "10:30" for 315°: the clock position to the nearest half hour, as the server says it too. */
export function clock(azimuthDeg: number): string {
  const halves = Math.round(azimuthDeg / 15) % 24;
  return `${Math.floor(halves / 2) || 12}:${halves % 2 ? "30" : "00"}`;
}
