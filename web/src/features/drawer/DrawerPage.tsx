import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { NavLink, useNavigate, useParams } from "react-router";

import { api, drawerQueries, type Drawer, type DrawerDetail } from "@/shared/api";
import { Ask, Button, counted, Failed, Waiting } from "@/shared/ui";
import { AddDrawerAsk } from "./AddDrawerAsk";
import { likeQuery, useDeleteDrawer } from "./api";
import { ChartAsk } from "./ChartAsk";
import { DrawerList } from "./DrawerList";
import { DrawerMap } from "./DrawerMap";
import { ImportAsk } from "./ImportAsk";
import { SwatchPanel } from "./SwatchPanel";
import { SwatchForm } from "./SwatchForm";

const MOST_ON_MAP = 1500;

export function DrawerPage() {
  const drawers = useQuery(drawerQueries.list);
  const asked = Number(useParams().id);
  const id = asked || drawers.data?.[0]?.id;
  const drawer = useQuery({ ...drawerQueries.detail(id ?? 0), enabled: id !== undefined });
  const [adding, setAdding] = useState(false);

  if (drawers.isError) return <Failed error={drawers.error} onRetry={() => void drawers.refetch()} />;
  if (drawers.data?.length === 0)
    return (
      <div className="m-auto rounded-sm bg-sheet p-8 shadow-lg">
        <p className="mb-3">There is no drawer in this account yet.</p>
        <Button kind="main" onClick={() => setAdding(true)}>
          Make a drawer
        </Button>
        <AddDrawerAsk open={adding} onClose={() => setAdding(false)} />
      </div>
    );
  if (drawer.isError) return <Failed error={drawer.error} onRetry={() => void drawer.refetch()} />;
  if (!drawer.data || !drawers.data) return <Waiting what="Opening the drawer" />;
  return <OpenDrawer key={id} drawer={drawer.data} drawers={drawers.data} />;
}

function OpenDrawer({ drawer, drawers }: { drawer: DrawerDetail; drawers: Drawer[] }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [words, setWords] = useState("");
  const [like, setLike] = useState("");
  const [asList, setAsList] = useState(drawer.records.length > MOST_ON_MAP);
  const [asking, setAsking] = useState<"swatch" | "import" | "chart" | "drawer" | "delete" | null>(null);
  const likeness = useQuery(likeQuery(drawer.id, like)).data;
  const remove = useDeleteDrawer();
  const navigate = useNavigate();

  const apart = like && likeness ? new Map(likeness.map((one) => [one.code, one.difference])) : null;
  const wanted = words.trim().toLowerCase();
  const fitting = drawer.records.filter(
    (record) =>
      !wanted || `${record.name} ${record.code} ${record.family} ${record.words}`.toLowerCase().includes(wanted),
  );
  const records = apart
    ? [...fitting].sort((one, other) => (apart.get(one.code) ?? 999) - (apart.get(other.code) ?? 999))
    : fitting;
  const swatch = records.find((one) => one.code === chosen) ?? records[0];
  const families = new Set(drawer.records.map((one) => one.family).filter(Boolean)).size;
  const close = () => setAsking(null);
  return (
    <div className="flex grow flex-col px-5 pb-5">
      <div className="mb-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <h1 className="text-[26px]">{drawer.name}</h1>
        <p className="grow">
          {counted(drawer.records.length, "swatch", "swatches")}
          {families > 0 && ` in ${counted(families, "family", "families")}`}
        </p>
        <nav aria-label="Drawers" className="flex flex-wrap gap-4">
          {drawers.map((one) => (
            <NavLink
              key={one.id}
              to={`/drawers/${one.id}`}
              className={
                one.id === drawer.id ? "border-b-2 border-ink" : "border-b-2 border-transparent hover:border-ink"
              }
            >
              {one.name}
            </NavLink>
          ))}
          <Button kind="quiet" onClick={() => setAsking("drawer")}>
            New drawer
          </Button>
        </nav>
      </div>
      <div className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <input
          type="search"
          aria-label="Search by name or code"
          placeholder="Name, code or colour word"
          className="field max-w-56"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <label className="flex items-center gap-2">
          Like this
          <input
            type="color"
            className="h-8 w-10 rounded border border-soft bg-sheet"
            value={like || "#808080"}
            onChange={(event) => {
              setLike(event.target.value);
              setAsList(true);
            }}
          />
        </label>
        {like && (
          <Button kind="quiet" onClick={() => setLike("")}>
            Any colour
          </Button>
        )}
        <div role="group" aria-label="Show as" className="flex">
          {[
            ["Map", false],
            ["List", true],
          ].map(([name, list]) => (
            <button
              key={String(name)}
              type="button"
              aria-pressed={asList === list}
              onClick={() => setAsList(Boolean(list))}
              className="border border-soft bg-sheet px-3 py-1 first:rounded-l last:rounded-r aria-pressed:bg-ink aria-pressed:text-sheet"
            >
              {name}
            </button>
          ))}
        </div>
        <span className="grow" />
        <Button onClick={() => setAsking("swatch")}>Add a swatch</Button>
        <Button onClick={() => setAsking("chart")}>Swatch chart</Button>
        <Button onClick={() => setAsking("import")}>Bring in a table</Button>
        <a className="underline underline-offset-4" href={api.url(`/drawers/${drawer.id}/export.csv/`)} download>
          CSV
        </a>
        <a className="underline underline-offset-4" href={api.url(`/drawers/${drawer.id}/export.gpl/`)} download>
          GPL palette
        </a>
        <Button kind="quiet" onClick={() => setAsking("delete")}>
          Delete drawer
        </Button>
      </div>
      {drawer.records.length === 0 ? (
        <p className="m-auto rounded-sm bg-sheet p-8 shadow-lg">
          This drawer is empty. Add a swatch, or bring in a table of them.
        </p>
      ) : (
        <div className="flex min-h-0 grow gap-5 max-[1023px]:flex-col">
          {asList ? (
            <DrawerList records={records} chosen={swatch?.code ?? null} onChoose={setChosen} apart={apart} />
          ) : (
            <DrawerMap swatches={records} chosen={swatch?.code ?? null} onChoose={setChosen} />
          )}
          {swatch && <SwatchPanel key={swatch.code} drawer={drawer} swatch={swatch} onRenamed={setChosen} />}
        </div>
      )}
      <Ask open={asking === "swatch"} onClose={close} title="Add a swatch">
        <SwatchForm
          drawer={drawer}
          onDone={(code) => {
            setChosen(code);
            close();
          }}
          onCancel={close}
        />
      </Ask>
      <ChartAsk
        drawer={drawer}
        codes={records.filter((record) => !record.retired).map((record) => record.code)}
        open={asking === "chart"}
        onClose={close}
      />
      <ImportAsk drawer={drawer} open={asking === "import"} onClose={close} />
      <AddDrawerAsk open={asking === "drawer"} onClose={close} />
      <Ask open={asking === "delete"} onClose={close} title={`Delete ${drawer.name}?`}>
        <p className="mb-4">
          {counted(drawer.records.length, "swatch", "swatches")} go with it. Pieces keep the swatches they use. This
          cannot be undone; export it first if in doubt.
        </p>
        <div className="flex justify-end gap-3">
          <Button onClick={close}>Keep it</Button>
          <Button
            kind="main"
            busy={remove.isPending}
            onClick={() => remove.mutate(drawer.id, { onSuccess: () => void navigate("/drawers") })}
          >
            Delete
          </Button>
        </div>
      </Ask>
    </div>
  );
}
