import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import type { PhotoCheck, PhotoCheckLine } from "@/shared/api";
import { Button, counted, Failed, ThingStrip, Tick, Waiting } from "@/shared/ui";
import { checkQueries, useForgetCheck } from "./api";
import { Beside } from "./Beside";
import { Findings } from "./Findings";

/** A photo of a card beside its plan or beside another card: the verdict, the picture, what was found. */
export function PhotoCheckPage() {
  const id = Number(useParams().id);
  const [search, setSearch] = useSearchParams();
  const against = search.get("against") ? Number(search.get("against")) : null;
  const check = useQuery(checkQueries.detail(id, against));
  if (check.data)
    return (
      <Report
        check={check.data}
        against={against}
        onAgainst={(other) => setSearch(other === null ? {} : { against: String(other) })}
      />
    );
  if (check.isError) return <Failed error={check.error} onRetry={() => void check.refetch()} />;
  return <Waiting what="Fetching the photo check" />;
}

type Props = { check: PhotoCheck; against: number | null; onAgainst: (other: number | null) => void };

function Report({ check, against, onAgainst }: Props) {
  const [chosen, setChosen] = useState<number | null>(null);
  const [difference, setDifference] = useState(false);
  const forget = useForgetCheck();
  const navigate = useNavigate();
  const lit = check.faults.find((fault) => fault.place === chosen)?.regions ?? [];
  const open = check.faults.filter((fault) => !fault.fine && !fault.slight).length;
  return (
    <div className="mx-auto grid w-full max-w-[1400px] grow grid-cols-[minmax(0,1fr)_minmax(380px,480px)] gap-6 px-6 py-4 max-[1023px]:grid-cols-1">
      <section aria-label="Photo and plan">
        <Beside check={check} against={against} lit={lit} difference={difference} />
        <div className="mt-2 flex justify-center">
          <Tick checked={difference} onKeep={setDifference}>
            Show only how far each part is off
          </Tick>
        </div>
      </section>
      <div className="self-start rounded-sm bg-sheet p-5 shadow">
        <p className="mb-1 text-[13px] text-soft">
          {check.title}, version {check.recipe_number}
          {check.run_id !== null && `, card ${check.card}`}, {new Date(check.made_at).toLocaleString()}
          {check.simulated && " · a simulated photo"}
        </p>
        <h1 className="mb-3 text-[22px] leading-snug">{check.verdict}</h1>
        {check.notes.map((note) => (
          <p key={note} className="mb-2 border-l-2 border-ink pl-2 text-[14px]">
            {note}
          </p>
        ))}
        <p className="mb-3 text-[14px]">
          {check.clock
            ? `Its shades say the light stood at ${check.clock} (give or take ${Math.round(check.doubt_deg ?? 0)}°); the plan's lamp stands at ${check.lamp_clock}.`
            : "Its shades do not say where the light stood."}
        </p>
        <Choose others={check.others} against={against} onAgainst={onAgainst} />
        <h2 className="mb-1 mt-4 text-lg">
          Findings <span className="text-[14px] font-normal text-soft">{counted(open, "open one")}, largest first</span>
        </h2>
        <Findings check={check} chosen={chosen} onChoose={setChosen} />
        {check.unseen.length > 0 && (
          <p className="mt-2 text-[13px] text-soft">Could not be seen: {check.unseen.join(", ")}.</p>
        )}
        <h2 className="mb-1 mt-4 text-lg">Thing by thing</h2>
        <ThingStrip things={check.things} label="How far each thing is off; the line stands at 3" />
        <Things check={check} />
        <div className="mt-4 flex flex-wrap gap-4">
          <Link to={`/pieces/${check.piece_id}/photo-check`} className="underline underline-offset-4">
            All cards of this piece
          </Link>
          <Link to={`/pieces/${check.piece_id}`} className="underline underline-offset-4">
            To the bench
          </Link>
          <Button
            kind="quiet"
            busy={forget.isPending}
            onClick={() =>
              forget.mutate(check.id, { onSuccess: () => void navigate(`/pieces/${check.piece_id}/photo-check`) })
            }
          >
            Take this check away
          </Button>
        </div>
      </div>
    </div>
  );
}

function Choose({ others, against, onAgainst }: { others: PhotoCheckLine[] } & Omit<Props, "check">) {
  if (others.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      Beside
      <select
        className="field"
        value={against ?? ""}
        onChange={(event) => onAgainst(event.target.value ? Number(event.target.value) : null)}
      >
        <option value="">the plan</option>
        {others.map((one) => (
          <option key={one.id} value={one.id}>
            {one.run_id === null ? "a photo" : `card ${one.card}`} of {new Date(one.made_at).toLocaleString()}
          </option>
        ))}
      </select>
    </label>
  );
}

function Things({ check }: { check: PhotoCheck }) {
  return (
    <details className="mt-2">
      <summary className="cursor-pointer">{counted(check.things.length, "thing")} with their light</summary>
      <table className="mt-1 w-full text-[14px]">
        <thead>
          <tr className="text-left text-soft">
            <th scope="col">Thing</th>
            <th scope="col">Off by</th>
            <th scope="col">Lit from</th>
          </tr>
        </thead>
        <tbody>
          {check.things.map((thing) => (
            <tr key={thing.name} className="border-t border-line">
              <td>{thing.name}</td>
              <td className="tabular-nums">{thing.size.toFixed(1)}</td>
              <td>{thing.clock && `${thing.clock} (± ${Math.round(thing.doubt_deg ?? 0)}°)`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
