import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { NavLink, useParams } from "react-router";

import { drawerQueries, type Swatch } from "@/shared/api";
import { counted, Failed, swatchStyle, Waiting } from "@/shared/ui";
import { DrawerMap } from "./DrawerMap";

export function DrawerPage() {
  const drawers = useQuery(drawerQueries.list);
  const asked = Number(useParams().id);
  const id = asked || drawers.data?.[0]?.id;
  const drawer = useQuery({ ...drawerQueries.detail(id ?? 0), enabled: id !== undefined });
  const [chosen, setChosen] = useState<string | null>(null);

  if (drawers.isError) return <Failed error={drawers.error} onRetry={() => void drawers.refetch()} />;
  if (drawers.data?.length === 0) return <p className="m-auto rounded-sm bg-sheet p-8 shadow-lg">There is no drawer in this account.</p>;
  if (drawer.isError) return <Failed error={drawer.error} onRetry={() => void drawer.refetch()} />;
  if (!drawer.data || !drawers.data) return <Waiting what="Opening the drawer" />;

  const swatch = drawer.data.swatches.find((one) => one.code === chosen) ?? drawer.data.swatches[0];
  const families = new Set(drawer.data.swatches.map((one) => one.family)).size;
  return (
    <div className="flex grow flex-col px-5 pb-5">
      <div className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h1 className="text-[26px]">{drawer.data.name}</h1>
        <p className="grow">{counted(drawer.data.swatches.length, "swatch", "swatches")} in {families} families</p>
        <nav aria-label="Drawers" className="flex gap-4">
          {drawers.data.map((one) => (
            <NavLink key={one.id} to={`/drawers/${one.id}`} className={one.id === id ? "border-b-2 border-ink" : "border-b-2 border-transparent hover:border-ink"}>{one.name}</NavLink>
          ))}
        </nav>
      </div>
      <div className="flex min-h-0 grow gap-5 max-[1023px]:flex-col">
        <DrawerMap swatches={drawer.data.swatches} chosen={swatch?.code ?? null} onChoose={setChosen} />
        {swatch && <SwatchCard swatch={swatch} family={drawer.data.swatches.filter((one) => one.family === swatch.family)} />}
      </div>
    </div>
  );
}

function SwatchCard({ swatch, family }: { swatch: Swatch; family: Swatch[] }) {
  return (
    <aside aria-label="Chosen swatch" aria-live="polite" className="h-fit w-72 shrink-0 rounded-sm bg-sheet p-5 shadow-lg">
      <h2 className="mb-3 text-lg">{swatch.name}</h2>
      <div className="mb-3 h-24 rounded bg-(--swatch)" style={swatchStyle(swatch.hex)} />
      <dl className="[&>div]:flex [&>div]:justify-between [&>div]:border-t [&>div]:border-line [&>div]:py-1.5">
        <div><dt>In words</dt><dd>{swatch.words}</dd></div>
        <div><dt>L* a* b*</dt><dd>{swatch.lab.map((value) => value.toFixed(1)).join(" · ")}</dd></div>
        <div><dt>Code</dt><dd>{swatch.code}</dd></div>
        <div><dt>Family</dt><dd>{family.map((one) => Math.round(one.lab[0] ?? 0)).sort((a, b) => b - a).join(" · ")}</dd></div>
      </dl>
    </aside>
  );
}
