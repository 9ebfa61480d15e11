import { useState } from "react";

import type { Region } from "@/shared/api";
import { Button, counted } from "@/shared/ui";
import { useFindThings } from "../api";
import { usePiece } from "../bench";

const grouped = (regions: Region[]) => regions.filter((region) => region.thing || region.body).length;

/** Proposes things for what belongs to none yet, and says what came of it until something else changes. */
export function LookForThings() {
  const piece = usePiece();
  const findThings = useFindThings(piece.id);
  const [found, setFound] = useState<{ version: number; more: number }>();
  const look = () =>
    findThings.mutate(undefined, {
      onSuccess: (changed) =>
        setFound({ version: changed.version, more: grouped(changed.regions.list) - grouped(piece.regions.list) }),
    });
  return (
    <>
      <Button
        kind="quiet"
        busy={findThings.isPending}
        title="Regions that belong to no thing yet are put together as far as that is sure"
        onClick={look}
      >
        Look for things
      </Button>
      <span role="status" className="text-[13px] text-soft">
        {found?.version === piece.version &&
          (found.more > 0
            ? `${counted(found.more, "region")} put together.`
            : "Nothing more belongs together for sure. Take regions in hand to make one thing of them.")}
      </span>
    </>
  );
}
