import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useState } from "react";

import { LIMITS, thingsOf, tradeQuery } from "@/shared/api";
import { Button, counted, RampChips, useSingleKeys } from "@/shared/ui";
import { gotosQuery, useChangeRegions, useLayGoTo } from "../api";
import { useHand, usePiece } from "../bench";
import { ThingPicture } from "../stage/ThingPicture";
import { useLabels } from "../stage/useLabels";

const KEYS = "123456789";

/** Thing by thing: what is it? One key for a tag; go-tos that carry the tag are at hand. It can be left at any time. */
export function WhatIsThis() {
  const piece = usePiece();
  const labels = useLabels();
  const words = useQuery(tradeQuery).data?.tags ?? [];
  const gotos = useQuery(gotosQuery).data ?? [];
  const change = useChangeRegions(piece.id);
  const lay = useLayGoTo(piece.id);
  const selectOnly = useHand((hand) => hand.selectOnly);
  const [asking, setAsking] = useState(false);
  const [skipped, setSkipped] = useState<readonly string[]>([]);
  const [said, setSaid] = useState<{ tag: string; labels: number[]; name: string } | null>(null);
  const open = useMemo(
    () =>
      thingsOf(piece.regions.list).filter((thing) =>
        thing.regions.every((region) => region.tags.length === 0 && !region.left_as_paper),
      ),
    [piece.regions.list],
  );
  const left = open.filter((thing) => !skipped.includes(thing.name));
  const thing = left[0];
  const shown = thing?.regions.map((region) => region.label).join() ?? "";
  // What was said before comes first: leaves are followed by leaves.
  const own = [...new Set(piece.regions.list.flatMap((region) => region.tags))];
  const tags = [...new Set([...own, ...words])].slice(0, 18);

  useEffect(() => {
    if (asking && shown) selectOnly(shown.split(",").map(Number));
  }, [asking, shown, selectOnly]);

  function say(tag: string) {
    if (!thing || change.isPending) return;
    const of = thing.regions.map((region) => region.label);
    setSaid({ tag, labels: of, name: thing.name });
    change.mutate({ labels: of, changes: { tags: [tag.slice(0, LIMITS.tags.longest)] } });
  }
  function skip() {
    if (thing) setSkipped([...skipped, thing.name]);
  }
  useSingleKeys((key) => {
    const tag = asking && KEYS.includes(key) ? tags[KEYS.indexOf(key)] : undefined;
    if (tag) say(tag);
    if (asking && key === "s") skip();
  });

  if (open.length === 0) return null;
  if (!asking || !thing)
    return (
      <p className="mb-3 flex items-center justify-between gap-3 rounded border border-line px-3 py-2">
        {counted(open.length, "thing has", "things have")} no tag yet.
        <Button
          onClick={() => {
            setSkipped([]);
            setAsking(true);
          }}
        >
          What is this?
        </Button>
      </p>
    );
  const fitting = said
    ? gotos.filter((goto) => goto.medium === piece.colours.medium && goto.tags.includes(said.tag)).slice(0, 3)
    : [];
  return (
    <div role="group" aria-label="What is this?" className="mb-3 rounded border-2 border-ink px-3 py-2">
      <p aria-live="polite" className="mb-2 flex items-center gap-3">
        <ThingPicture labels={labels} of={thing.regions.map((region) => region.label)} />
        <span>
          <b>What is {thing.name}?</b> <span className="text-soft">{left.length - 1} more to come.</span>
        </span>
      </p>
      <div className="mb-2 flex flex-wrap gap-1.5">
        {tags.map((tag, place) => (
          <Button key={tag} className="min-h-7 px-2 py-0.5" disabled={change.isPending} onClick={() => say(tag)}>
            {tag}
            {place < KEYS.length && <kbd className="ml-1 font-sans text-[12px] opacity-70">{KEYS[place]}</kbd>}
          </Button>
        ))}
      </div>
      {said && fitting.length > 0 && (
        <ul aria-label={`Go-tos for ${said.tag}`} className="mb-2 border-t border-line pt-1">
          {fitting.map((goto) => (
            <li
              key={goto.id}
              className="grid grid-cols-[minmax(0,1fr)_7rem_auto] items-center gap-2 py-0.5 text-[13px]"
            >
              <span className="truncate">
                {goto.name} on {said.name}
              </span>
              <RampChips swatches={goto.ramp.swatches} small />
              <Button
                kind="quiet"
                disabled={lay.isPending}
                onClick={() => lay.mutate({ goto: goto.id, labels: said.labels })}
              >
                Use
              </Button>
            </li>
          ))}
        </ul>
      )}
      <div className="flex gap-3">
        <Button onClick={skip}>Skip (s)</Button>
        <Button kind="quiet" onClick={() => setAsking(false)}>
          Later
        </Button>
      </div>
    </div>
  );
}
