import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import { checksOfPiece, pieceQueries, type PhotoCheckLine, type Piece } from "@/shared/api";
import { Failed, ThingStrip, Waiting } from "@/shared/ui";
import { pictureUrl, useCheckPhoto } from "./api";
import { MeasuredBox } from "./MeasuredBox";
import { PhotoPick } from "./PhotoPick";
import { StampAgain } from "./StampAgain";
import { TryPhoto } from "./TryPhoto";

/** Is this card like that one, and the same stamp again. */
export function PhotoChecksPage() {
  const id = Number(useParams().id);
  const piece = useQuery(pieceQueries.detail(id));
  if (piece.data) return <Open piece={piece.data} />;
  if (piece.isError) return <Failed error={piece.error} onRetry={() => void piece.refetch()} />;
  return <Waiting what="Fetching the piece" />;
}

function Open({ piece }: { piece: Piece }) {
  const [search] = useSearchParams();
  const run = search.get("run") ? Number(search.get("run")) : null;
  const [card, setCard] = useState(1);
  const check = useCheckPhoto(piece);
  const navigate = useNavigate();
  return (
    <div className="mx-auto w-full max-w-[1400px] grow bg-sheet px-6 pb-10 pt-4">
      <div className="mb-3 flex flex-wrap items-baseline justify-between gap-x-6">
        <h1 className="text-[26px] leading-tight">{piece.stamp.title}: its cards</h1>
        <Link to={`/pieces/${piece.id}`} className="underline underline-offset-4">
          Back to the bench
        </Link>
      </div>
      <div className="grid grid-cols-2 gap-10 max-[1023px]:grid-cols-1">
        <div className="space-y-8">
          <section aria-label="Check a card">
            <h2 className="mb-1 text-xl">Is this card like the plan?</h2>
            <p className="mb-3 text-[14px] text-soft">
              A phone's photo in the light of the room is enough. Even light without flash says most; all of the card,
              and a little of its paper, should be in it.
            </p>
            <PhotoPick
              name="Photo of a finished card"
              words="Choose a photo of the finished card, or take one"
              action="Check the card"
              busy={check.isPending}
              error={check.error?.message ?? ""}
              progress="Finding the card, taking its light out, measuring every zone. This takes some seconds."
              onGo={(photo, corners) =>
                check.mutate(
                  { photo, corners, run, card },
                  { onSuccess: (made) => void navigate(`/photo-checks/${made.id}`) },
                )
              }
            >
              {run !== null && (
                <label className="flex items-center gap-2">
                  Which card of the run
                  <input
                    type="number"
                    min={1}
                    max={99}
                    className="field w-20"
                    value={card}
                    onChange={(event) => setCard(Math.max(1, Number(event.target.value)))}
                  />
                </label>
              )}
            </PhotoPick>
          </section>
          <TryPhoto piece={piece} />
          <StampAgain piece={piece} />
        </div>
        <div className="space-y-8">
          <Checks piece={piece} />
          <MeasuredBox piece={piece.id} />
        </div>
      </div>
    </div>
  );
}

function Checks({ piece }: { piece: Piece }) {
  const checks = useQuery(checksOfPiece(piece.id));
  return (
    <section aria-label="Cards that were checked">
      <h2 className="mb-2 text-xl">Cards that were checked</h2>
      {checks.isError && <Failed error={checks.error} onRetry={() => void checks.refetch()} />}
      {checks.data?.length === 0 && <p>None yet. The first photo makes the beginning.</p>}
      <ul className="space-y-4">
        {checks.data?.map((check) => (
          <Line key={check.id} check={check} />
        ))}
      </ul>
    </section>
  );
}

function Line({ check }: { check: PhotoCheckLine }) {
  return (
    <li className="grid grid-cols-[88px_1fr] gap-3 border-t border-line pt-3">
      <img src={pictureUrl(check.id, "flat")} alt="" className="w-full border border-line" loading="lazy" />
      <div>
        <p className="text-[13px] text-soft">
          Version {check.recipe_number}
          {check.run_id !== null && `, card ${check.card}`}, {new Date(check.made_at).toLocaleString()}
          {check.simulated && " · simulated"}
        </p>
        <Link to={`/photo-checks/${check.id}`} className="font-bold underline underline-offset-4">
          {check.verdict}
        </Link>
        <ThingStrip things={check.things} label="How far each thing is off; the line stands at 3" />
      </div>
    </li>
  );
}
