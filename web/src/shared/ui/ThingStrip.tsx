import type { ThingOff } from "@/shared/api";

const WIDE = 12;

/** How far each thing of a card is off: a bar per thing, its height the difference, a line at 3. */
export function ThingStrip({ things, label }: { things: ThingOff[]; label: string }) {
  return (
    <ul aria-label={label} className="relative flex h-12 items-end gap-px border-b border-ink">
      <li aria-hidden className="absolute inset-x-0 border-t border-dashed border-soft" style={{ bottom: "25%" }} />
      {things.map((thing) => (
        <li
          key={thing.name}
          className={`min-w-1 grow ${thing.size > 3 ? "bg-ink" : "bg-[#9a9a9a]"}`}
          style={{ height: `${Math.max(4, (100 * Math.min(thing.size, WIDE)) / WIDE)}%` }}
          title={`${thing.name}: ${thing.size.toFixed(1)}`}
        >
          <span className="sr-only">
            {thing.name}: {thing.size.toFixed(1)}
          </span>
        </li>
      ))}
    </ul>
  );
}
