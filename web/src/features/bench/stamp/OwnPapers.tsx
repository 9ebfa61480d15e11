import { useQuery } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";

import { LIMITS, nameOf, papersQuery, type OwnPaper, type ReaderRead, type Trade } from "@/shared/api";
import { Button, Choice, swatchStyle, Tick } from "@/shared/ui";
import { useDescribeStamp, useDropPaper, useKeepPaper, usePaperReader, usePaperWhite } from "../api";
import { usePiece } from "../bench";

function told(read?: ReaderRead) {
  if (!read) return "";
  if (!read.lab) return "The tile was seen. Now hold it on a blank place of the sheet.";
  return `${read.lab.map((value) => value.toFixed(1)).join(" · ")}, off the scan by ${read.difference?.toFixed(1)}`;
}

/** What is known of a paper of one's own, in a line. */
function known(paper: OwnPaper, trade: Trade) {
  const words = [
    nameOf(trade.surfaces, paper.surface),
    paper.gsm > 0 && `${paper.gsm} g/m²`,
    nameOf(trade.water, paper.water),
    ...paper.behaves.map((code) => nameOf(trade.behaviours, code)),
    paper.dries !== 1 && `dries in ${paper.dries} × the usual time`,
  ];
  return words.filter(Boolean).join(", ").toLowerCase();
}

/** Papers of one's own: a measured white, a weight, a surface, and how they take water. */
export function OwnPapers({ trade }: { trade: Trade }) {
  const piece = usePiece();
  const papers = useQuery(papersQuery).data ?? [];
  const describe = useDescribeStamp(piece.id);
  const keep = useKeepPaper();
  const drop = useDropPaper();
  const white = usePaperWhite(piece.id);
  const reader = usePaperReader(piece.id);
  const [name, setName] = useState("");
  const [lab, setLab] = useState(["95", "0", "2"]);
  const [gsm, setGsm] = useState("250");
  const [surface, setSurface] = useState(trade.surfaces[0]?.code ?? "");
  const [water, setWater] = useState(trade.water[0]?.code ?? "");
  const [behaves, setBehaves] = useState<string[]>([]);
  const [dries, setDries] = useState("1");
  const numbers = lab.map(Number);
  const times = Number(dries.replace(",", "."));
  const sound = name.trim() !== "" && numbers.every(Number.isFinite) && Number(gsm) >= 0 && times > 0;

  function submit(event: FormEvent) {
    event.preventDefault();
    if (!sound) return;
    const kept = {
      name: name.trim(),
      lab: numbers,
      gsm: Number(gsm),
      surface: surface as never,
      water: water as never,
      behaves: behaves as never,
      dries: times,
    };
    keep.mutate(kept, {
      onSuccess: (paper) => {
        setName("");
        describe.mutate({ paper: paper.code });
      },
    });
  }

  return (
    <details>
      <summary>Papers of your own{papers.length > 0 && ` (${papers.length})`}</summary>
      <ul aria-label="Papers of your own">
        {papers.map((paper) => (
          <li key={paper.id} className="flex items-center gap-2 border-t border-line py-1 text-[13px]">
            <span className="size-5 rounded-sm border border-line bg-(--swatch)" style={swatchStyle(paper.hex)} />
            <span className="grow">
              {paper.name}: {known(paper, trade)}
            </span>
            <Button kind="quiet" aria-label={`Forget ${paper.name}`} onClick={() => drop.mutate(paper.id)}>
              Forget
            </Button>
          </li>
        ))}
      </ul>
      <form onSubmit={submit} className="mt-1 flex flex-wrap items-end gap-2 border-t border-line pt-2">
        <label className="flex flex-col">
          Name
          <input
            className="field mt-1 w-44"
            value={name}
            maxLength={LIMITS.PaperFormRequest.name.maxLength}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        {["L*", "a*", "b*"].map((letter, place) => (
          <label key={letter} className="flex flex-col">
            {letter}
            <input
              className="field mt-1 w-16"
              inputMode="decimal"
              value={lab[place]}
              onChange={(event) => setLab(lab.map((old, at) => (at === place ? event.target.value : old)))}
            />
          </label>
        ))}
        <label className="flex flex-col">
          g/m²
          <input
            className="field mt-1 w-20"
            inputMode="decimal"
            value={gsm}
            onChange={(event) => setGsm(event.target.value)}
          />
        </label>
        <Button
          kind="quiet"
          busy={white.isPending}
          title="As true as the scanner is; a reading on the paper itself is better"
          onClick={() => white.mutate(undefined, { onSuccess: (read) => setLab(read.lab.map(String)) })}
        >
          Read it off this scan
        </Button>
        <span className="flex items-center gap-2" role="group" aria-label="Colour reader (simulated)">
          Colour reader (simulated)
          <Button kind="quiet" disabled={reader.isPending} onClick={() => reader.mutate(true)}>
            White tile
          </Button>
          <Button
            kind="quiet"
            disabled={reader.isPending}
            onClick={() =>
              reader.mutate(false, {
                onSuccess: (found) => {
                  if (found.lab) setLab(found.lab.map(String));
                },
              })
            }
          >
            Read this sheet
          </Button>
        </span>
        <p role="status" className="basis-full text-[13px] empty:hidden">
          {reader.error?.message ?? told(reader.data)}
        </p>
        <Choice label="Surface" value={surface} options={trade.surfaces} onKeep={setSurface} below />
        <Choice label="Water" value={water} options={trade.water} onKeep={setWater} below />
        <label className="flex flex-col">
          Drying, × usual
          <input
            className="field mt-1 w-20"
            inputMode="decimal"
            title="How many times as long as on usual card what is wet takes to dry"
            value={dries}
            onChange={(event) => setDries(event.target.value)}
          />
        </label>
        <fieldset className="basis-full">
          <legend className="text-[13px] text-soft">It also</legend>
          {trade.behaviours.map((one) => (
            <Tick
              key={one.code}
              checked={behaves.includes(one.code)}
              onKeep={(on) => setBehaves(behaves.filter((code) => code !== one.code).concat(on ? one.code : []))}
            >
              {one.name.toLowerCase()}
            </Tick>
          ))}
        </fieldset>
        <Button type="submit" busy={keep.isPending} disabled={!sound}>
          Keep this paper
        </Button>
        {keep.error && (
          <p role="alert" className="basis-full text-[13px]">
            {keep.error.message}
          </p>
        )}
      </form>
    </details>
  );
}
