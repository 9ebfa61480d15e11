import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from "@headlessui/react";

import type { Swatch } from "@/shared/api";
import { swatchStyle } from "@/shared/ui";

/** One chip of a ramp; opens the drawer, palest first, to put another swatch in its place. */
export function SwatchPicker({
  swatch,
  drawer,
  onPick,
}: {
  swatch: Swatch;
  drawer: Swatch[];
  onPick: (swatch: Swatch) => void;
}) {
  const sorted = [...drawer].sort((one, other) => (other.lab[0] ?? 0) - (one.lab[0] ?? 0));
  return (
    <Listbox
      value={swatch.code}
      onChange={(code) => {
        const other = drawer.find((one) => one.code === code);
        if (other && code !== swatch.code) onPick(other);
      }}
    >
      <ListboxButton
        className="min-w-0 grow rounded border border-soft bg-sheet p-1 text-left text-[12px] leading-tight"
        aria-label={`${swatch.name}, change`}
      >
        <span className="block h-7 rounded-sm bg-(--swatch)" style={swatchStyle(swatch.hex)} />
        <span className="block truncate">{swatch.pen}</span>
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        className="z-50 max-h-72 w-64 overflow-y-auto rounded border border-ink bg-sheet p-1 shadow-xl"
      >
        {sorted.map((one) => (
          <ListboxOption
            key={one.code}
            value={one.code}
            className="flex items-center gap-2 rounded px-1.5 py-1 text-[13px] data-focus:bg-faint data-selected:font-bold"
          >
            <span className="size-5 rounded-sm bg-(--swatch)" style={swatchStyle(one.hex)} />
            <span className="grow">{one.name}</span>
            <span className="text-soft">L* {Math.round(one.lab[0] ?? 0)}</span>
          </ListboxOption>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
