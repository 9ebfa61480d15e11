import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { LIMITS, tradeQuery, type Region } from "@/shared/api";
import { useChangeRegions } from "../api";
import { usePiece } from "../bench";

/** Words on the regions in hand: type one and press Enter; click one to take it off. */
export function TagField({ regions }: { regions: Region[] }) {
  const piece = usePiece();
  const change = useChangeRegions(piece.id);
  const known = useQuery(tradeQuery).data?.tags ?? [];
  const [text, setText] = useState("");
  const labels = regions.map((region) => region.label);
  const shared = sharedTags(regions);
  const used = [...new Set([...piece.regions.list.flatMap((region) => region.tags), ...known])];

  function add() {
    const tag = text.trim().toLowerCase();
    setText("");
    if (tag && !shared.includes(tag))
      change.mutate({
        labels,
        changes: (now) => ({
          tags: [...sharedTags(now).filter((one) => one !== tag), tag].slice(-LIMITS.tags.most),
        }),
      });
  }

  return (
    <div className="mt-2 flex flex-wrap items-center gap-1 text-[13px]">
      <label className="flex items-center gap-2">
        Tags
        <input
          className="w-32 rounded border border-soft px-1 py-0.5"
          list="known-tags"
          maxLength={LIMITS.tags.longest}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => event.key === "Enter" && add()}
          onBlur={add}
        />
      </label>
      <datalist id="known-tags">
        {used.map((tag) => (
          <option key={tag} value={tag} />
        ))}
      </datalist>
      {shared.map((tag) => (
        <button
          key={tag}
          type="button"
          aria-label={`Take off the tag ${tag}`}
          className="min-h-6 rounded-full border border-soft px-2 hover:border-ink"
          onClick={() =>
            change.mutate({ labels, changes: (now) => ({ tags: sharedTags(now).filter((one) => one !== tag) }) })
          }
        >
          {tag} ×
        </button>
      ))}
    </div>
  );
}

/** Tags that all of the regions have. */
function sharedTags(regions: Region[]): string[] {
  return regions.reduce<string[]>(
    (tags, region) => tags.filter((tag) => region.tags.includes(tag)),
    regions[0]?.tags ?? [],
  );
}
