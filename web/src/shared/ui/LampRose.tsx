/** Where the light comes from, small: a card with the lamp beside it. */
export function LampRose({ azimuth, clock, size = 34 }: { azimuth: number; clock: string; size?: number }) {
  const angle = (azimuth * Math.PI) / 180;
  const x = 20 + 15 * Math.sin(angle);
  const y = 20 - 15 * Math.cos(angle);
  return (
    <svg viewBox="0 0 40 40" width={size} height={size} role="img" aria-label={`Light from ${clock}`}>
      <circle cx="20" cy="20" r="15" fill="none" stroke="currentColor" strokeOpacity="0.35" />
      <rect x="14" y="12.5" width="12" height="15" fill="#fff" stroke="currentColor" />
      <line x1={x} y1={y} x2={20 + 8 * Math.sin(angle)} y2={20 - 8 * Math.cos(angle)} stroke="currentColor" />
      <circle cx={x} cy={y} r="4.4" fill="var(--color-lamp)" stroke="currentColor" strokeWidth="1.4" />
    </svg>
  );
}
