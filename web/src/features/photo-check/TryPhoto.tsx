import { useState } from "react";
import { useNavigate } from "react-router";

import type { Piece, Request } from "@/shared/api";
import { Button, QueueLength, Refusal } from "@/shared/ui";
import { useTryPhoto } from "./api";

type Wish = Required<Request<"SimulatedForm">>;
type Kind = NonNullable<Wish["faults"]>[number]["kind"];

const LIGHTS: Record<Wish["light"], string> = {
  easy: "even daylight",
  medium: "a warm lamp, a shadow of the hand",
  hard: "a dim corner, shine and blur",
};
const KINDS: Record<Kind, string> = {
  missing: "not coloured",
  reversed: "shaded on the wrong side",
  pale: "too pale",
  dark: "too dark",
  colour: "another colour",
  uneven: "blotchy",
  over: "run over its line",
};

/** Try it without a card: a simulated hand colours one, with a fault if wished, and a simulated camera takes it. */
export function TryPhoto({ piece }: { piece: Piece }) {
  const coloured = piece.regions.list.filter((region) => region.coats.length > 0 && !region.left_as_paper);
  const [light, setLight] = useState<Wish["light"]>("easy");
  const [kind, setKind] = useState<Kind>("pale");
  const [label, setLabel] = useState(0);
  const tried = useTryPhoto(piece);
  const navigate = useNavigate();
  function go() {
    const faults = label ? [{ kind, label, size: kind === "over" ? 1.5 : 8 }] : [];
    const seed = 1 + Math.floor(Math.random() * 999_999);
    tried.mutate({ light, faults, seed }, { onSuccess: (made) => void navigate(`/photo-checks/${made.id}`) });
  }
  return (
    <section aria-label="Try it without a card" className="rounded border border-line p-4">
      <h2 className="mb-1 text-lg">Try it without a card</h2>
      <p className="mb-3 text-[13px] text-soft">
        Simulated: a hand that varies as hands do colours the card on this machine, and a camera stands in for yours.
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <label>
          Light
          <select className="field" value={light} onChange={(event) => setLight(event.target.value as Wish["light"])}>
            {Object.entries(LIGHTS).map(([key, words]) => (
              <option key={key} value={key}>
                {words}
              </option>
            ))}
          </select>
        </label>
        <label>
          With a fault on
          <select className="field" value={label} onChange={(event) => setLabel(Number(event.target.value))}>
            <option value={0}>nothing</option>
            {coloured.map((region) => (
              <option key={region.label} value={region.label}>
                {region.name}
              </option>
            ))}
          </select>
        </label>
        {label > 0 && (
          <label>
            which is
            <select className="field" value={kind} onChange={(event) => setKind(event.target.value as Kind)}>
              {Object.entries(KINDS).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        )}
        <Button busy={tried.isPending} disabled={coloured.length === 0} onClick={go}>
          Make and check a card
        </Button>
      </div>
      {tried.isPending && (
        <p role="status">
          Colouring, photographing and measuring. This takes some seconds.
          <QueueLength />
        </p>
      )}
      {tried.error && <Refusal error={tried.error.message} />}
      {coloured.length === 0 && <p className="mt-2">Give a region its colours first.</p>}
    </section>
  );
}
