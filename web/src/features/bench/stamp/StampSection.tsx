import { useQuery } from "@tanstack/react-query";

import { LIMITS, papersQuery, type Trade } from "@/shared/api";
import { Choice, length, UnitSwitch, useUnit } from "@/shared/ui";
import { useDescribeStamp } from "../api";
import { usePiece } from "../bench";
import { FindAgain } from "../regions/FindAgain";
import { FitAdvice } from "./FitAdvice";
import { KeptField } from "../KeptField";
import { LineColour } from "./LineColour";
import { OwnPapers } from "./OwnPapers";

export function StampSection({ trade }: { trade: Trade }) {
  const piece = usePiece();
  const describe = useDescribeStamp(piece.id);
  const { unit } = useUnit();
  const own = useQuery(papersQuery).data ?? [];
  const papers = [...trade.papers, ...own];
  if (!papers.some((paper) => paper.code === piece.stamp.paper))
    papers.push({ code: piece.stamp.paper, name: piece.stamp.paper_name });
  return (
    <div className="flex flex-col gap-3">
      <KeptField
        label="Title"
        value={piece.stamp.title}
        maxLength={LIMITS.StampFormRequest.title.maxLength}
        required
        onKeep={(title) => describe.mutate({ title })}
      />
      <Choice
        label="Outline ink"
        value={piece.stamp.outline_ink}
        options={trade.inks}
        onKeep={(outline_ink) => describe.mutateAsync({ outline_ink })}
        below
      />
      <LineColour trade={trade} />
      <KeptField
        label="What you call this ink"
        value={piece.stamp.ink_name ?? ""}
        maxLength={LIMITS.StampFormRequest.ink_name.maxLength}
        onKeep={(ink_name) => describe.mutate({ ink_name })}
      />
      <Choice
        label="Paper"
        value={piece.stamp.paper}
        options={papers}
        onKeep={(paper) => describe.mutateAsync({ paper })}
        below
      />
      <OwnPapers trade={trade} />
      <FitAdvice />
      <FindAgain />
      {piece.regions.stamping.length > 0 && (
        <details>
          <summary className="font-bold">Stamping and masking order</summary>
          <p className="text-[13px] text-soft">
            If you stamp these things one by one: the front first, its mask, then what stands behind. Follows from who
            stands before whom.
          </p>
          <ol className="ml-5 list-decimal">
            {piece.regions.stamping.map((step) => (
              <li key={step.what}>{step.what}</li>
            ))}
          </ol>
        </details>
      )}
      <p className="text-soft">
        Scanned {length(piece.width_mm, unit)} by {length(piece.height_mm, unit)}, {Math.round(piece.dpi)} dpi.{" "}
        <UnitSwitch />
      </p>
      {piece.warnings.length > 0 && (
        <ul className="ml-5 list-disc text-soft">
          {piece.warnings.map((warning) => (
            <li key={warning}>{warning}</li>
          ))}
        </ul>
      )}
    </div>
  );
}
