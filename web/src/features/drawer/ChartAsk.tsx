import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, type ChartLine, type DrawerDetail } from "@/shared/api";
import { Ask, Button, counted, FileButton, QueueLength, Refusal, swatchStyle, tell } from "@/shared/ui";
import { chartsQuery, useAddChart, useReadChart, useStoreMeasures } from "./api";

const MOST = 52;

/** Measuring with paper and a camera: print a chart, fill it, photograph it, look at what was read, keep it. */
export function ChartAsk({
  drawer,
  codes,
  open,
  onClose,
}: {
  drawer: DrawerDetail;
  codes: string[];
  open: boolean;
  onClose: () => void;
}) {
  const charts = useQuery({ ...chartsQuery(drawer.id), enabled: open }).data ?? [];
  const add = useAddChart(drawer.id);
  const read = useReadChart(drawer.id);
  const store = useStoreMeasures(drawer.id);
  const [number, setNumber] = useState<number | null>(null);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chart = charts.find((one) => one.number === number) ?? charts.at(-1);
  const at = chart ? `/drawers/${drawer.id}/charts/${chart.number}` : "";
  const lines = read.data;
  const kept = lines?.filter((line) => line.read && !left.has(line.code)) ?? [];

  function look(photo: File) {
    setLeft(new Set());
    if (chart) read.mutate({ number: chart.number, photo });
  }

  async function simulate() {
    const photo = await api.blob(`${at}/simulated.jpg/`);
    look(new File([photo], "simulated.jpg", { type: "image/jpeg" }));
  }

  function close() {
    read.reset();
    setNumber(null);
    onClose();
  }

  function keep(list: ChartLine[]) {
    const values = list.map((line) => ({ code: line.code, lab: line.read ?? [], second: line.second }));
    store.mutate(
      { measured: "chart", paper: chart?.paper ?? "smooth-white", values },
      {
        onSuccess: () => {
          tell(`Kept ${counted(values.length, "reading")}.`);
          close();
        },
      },
    );
  }

  return (
    <Ask open={open} onClose={close} title="Measure with a swatch chart" wide>
      <div className="flex flex-col gap-3">
        <p>
          Print a chart, fill its boxes with the pens, photograph it in even light. Paleta finds the marks, takes out
          slant, cast and shade, and reads the boxes.
        </p>
        <div className="flex flex-wrap items-center gap-3">
          <Button
            busy={add.isPending}
            disabled={codes.length === 0}
            onClick={() =>
              add.mutate(
                { codes: codes.slice(0, MOST), paper: "smooth-white" },
                {
                  onSuccess: (made) => {
                    setNumber(made.number);
                    read.reset();
                  },
                },
              )
            }
          >
            New chart of {counted(Math.min(MOST, codes.length), "swatch", "swatches")}
          </Button>
          {codes.length > MOST && (
            <span className="text-[13px] text-soft">{MOST} fit on a sheet; search first to choose which.</span>
          )}
          {charts.length > 0 && (
            <label className="flex items-center gap-2">
              Chart
              <select
                className="rounded border border-soft px-2 py-1"
                value={chart?.number}
                onChange={(event) => {
                  setNumber(Number(event.target.value));
                  read.reset();
                }}
              >
                {charts.map((one) => (
                  <option key={one.number} value={one.number}>
                    {one.number} ({one.count})
                  </option>
                ))}
              </select>
            </label>
          )}
        </div>
        {chart && (
          <div className="flex flex-wrap items-center gap-4">
            <a className="underline underline-offset-4" href={api.url(`${at}.pdf/`)} download>
              Print chart {chart.number} (PDF)
            </a>
            <FileButton name="Photo of the chart" accept="image/*" onFile={look}>
              Read a photo of it
            </FileButton>
            <Button
              kind="quiet"
              disabled={read.isPending}
              title="For trying it out: a simulated camera photographs a filled chart"
              onClick={() => void simulate()}
            >
              Use the simulated camera
            </Button>
          </div>
        )}
        {read.isPending && (
          <p role="status" className="text-soft">
            Reading the chart …
            <QueueLength />
          </p>
        )}
        <Refusal error={read.error} />
        {lines && (
          <>
            <div className="max-h-72 overflow-y-auto border-y border-line">
              <table aria-label="Readings" className="w-full text-[13px]">
                <thead>
                  <tr className="text-left text-soft">
                    <th className="font-normal">Keep</th>
                    <th className="font-normal">Swatch</th>
                    <th className="font-normal">Old</th>
                    <th className="font-normal">Read</th>
                    <th className="font-normal">Second box</th>
                    <th className="font-normal">Off by</th>
                  </tr>
                </thead>
                <tbody>
                  {lines.map((line) => (
                    <tr key={line.code} className="border-t border-faint">
                      <td>
                        <input
                          type="checkbox"
                          className="size-6 accent-ink"
                          aria-label={`Keep ${line.name}`}
                          disabled={!line.read}
                          checked={line.read !== null && !left.has(line.code)}
                          onChange={(event) => {
                            const next = new Set(left);
                            if (event.target.checked) next.delete(line.code);
                            else next.add(line.code);
                            setLeft(next);
                          }}
                        />
                      </td>
                      <td>
                        {line.name}
                        {line.uneven && " (uneven)"}
                      </td>
                      <td>
                        <Chip hex={line.old_hex} />
                      </td>
                      <td>{line.read_hex ? <Chip hex={line.read_hex} /> : "left empty"}</td>
                      <td>{line.second_hex && <Chip hex={line.second_hex} />}</td>
                      <td className="figure">{line.difference?.toFixed(1) ?? "–"}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <div className="flex justify-end gap-3">
              <Button onClick={close}>Keep none</Button>
              <Button kind="main" busy={store.isPending} disabled={kept.length === 0} onClick={() => keep(kept)}>
                Keep {counted(kept.length, "reading")}
              </Button>
            </div>
          </>
        )}
      </div>
    </Ask>
  );
}

function Chip({ hex }: { hex: string }) {
  return <span className="block h-5 w-10 border border-line bg-(--swatch)" style={swatchStyle(hex)} />;
}
