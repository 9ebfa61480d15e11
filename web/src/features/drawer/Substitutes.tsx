import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { SwatchRecord } from "@/shared/api";
import { swatchStyle } from "@/shared/ui";
import { substitutesQuery } from "./api";

/** What could stand in for a swatch, out of all drawers, lightness first. */
export function Substitutes({ swatch }: { swatch: SwatchRecord }) {
  const [open, setOpen] = useState(false);
  const found = useQuery({ ...substitutesQuery(swatch.hex), enabled: open });
  return (
    <details
      className="mt-2 border-t border-line pt-2 text-[13px]"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary>What could stand in</summary>
      {found.error && <p role="alert">{found.error.message}</p>}
      <ul aria-label="Substitutes">
        {found.data
          ?.filter((one) => one.swatch.code !== swatch.code)
          .slice(0, 5)
          .map((one) => (
            <li key={`${one.drawer} ${one.swatch.code}`} className="flex items-center gap-2 py-0.5">
              <span
                className="size-5 shrink-0 border border-line bg-(--swatch)"
                style={swatchStyle(one.swatch.hex)}
                aria-hidden
              />
              <span className="grow">
                {one.swatch.name}
                <span className="text-soft"> · {one.drawer}</span>
              </span>
              off by {one.apart.toFixed(1)}
            </li>
          ))}
      </ul>
    </details>
  );
}
