import { useQuery } from "@tanstack/react-query";

import { pieceQueries, type CutSheet } from "@/shared/api";
import { counted, Failed, Size, sizeWords, useUnit, Waiting } from "@/shared/ui";
import { CardsField } from "./CardsField";
import { useCard } from "./card";
import { Part } from "./Part";

/** How the pieces come out of the sheets: which cuts in which order, how many sheets, what to buy. */
export function CuttingPlan() {
  const { piece } = useCard();
  const plan = useQuery(pieceQueries.cutting(piece.id, piece.version));
  return (
    <Part name="Cutting" action={<CardsField />}>
      {plan.isError && <Failed error={plan.error} onRetry={() => void plan.refetch()} />}
      {plan.isPending && <Waiting what="Working out the cuts" />}
      {plan.data && (
        <>
          <p className="my-2">
            {plan.data.needs.map((need) => (
              <span key={need.stock} className="block">
                <strong>{need.stock}:</strong> {counted(need.used, "sheet")}
                {need.used > need.bound
                  ? `; no plan takes fewer than ${need.bound}, so it may be ${need.used - need.bound} too many`
                  : ", and no plan takes fewer"}
                . {need.buy > 0 ? `${need.owned} at hand: buy ${need.buy}.` : `${need.owned} at hand: enough.`}
              </span>
            ))}
            {plan.data.sheets.length > 0 && `${Math.round(plan.data.waste * 100)} % of the paper is left over.`}
          </p>
          {plan.data.uncut.length > 0 && (
            <p className="mb-2 text-[14px] text-soft">
              Not cut from sheets: {plan.data.uncut.join(", ").toLowerCase()}.
            </p>
          )}
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-4">
            {plan.data.sheets.map((sheet, place) => (
              <Sheet key={place} sheet={sheet} />
            ))}
          </ul>
        </>
      )}
    </Part>
  );
}

function Sheet({ sheet }: { sheet: CutSheet }) {
  const { unit } = useUnit();
  const wide = sheet.width.at_mm;
  const high = sheet.height.at_mm;
  const text = Math.max(wide, high) / 34;
  return (
    <li>
      <h3 className="text-[15px]">
        {counted(sheet.count, "sheet")} of {sheet.stock},{" "}
        <span className="font-sans font-normal">
          <Size of={sheet.width} bare /> by <Size of={sheet.height} />
        </span>
      </h3>
      <svg
        viewBox={`-6 -6 ${wide + 12} ${high + 12}`}
        className="my-1 max-h-80 w-full"
        role="img"
        aria-label={`Cutting plan of ${sheet.stock}`}
      >
        <rect x="0" y="0" width={wide} height={high} fill="#d9d9d9" stroke="#161616" />
        {sheet.pieces.map((piece, place) => {
          const { x, y, width, height } = piece.place;
          const upright = height.at_mm > 2 * width.at_mm;
          const middle = { x: x.at_mm + width.at_mm / 2, y: y.at_mm + height.at_mm / 2 };
          const size = Math.min(text, Math.min(width.at_mm, height.at_mm) / 2.6);
          return (
            <g key={place}>
              <rect
                x={x.at_mm}
                y={y.at_mm}
                width={width.at_mm}
                height={height.at_mm}
                fill={sheet.hex}
                stroke="#565656"
                strokeWidth="0.5"
              />
              {piece.scores.map((score) => (
                <line
                  key={score.at.exact}
                  x1={score.x0}
                  y1={score.y0}
                  x2={score.x1}
                  y2={score.y1}
                  stroke="#161616"
                  strokeDasharray="4 3"
                />
              ))}
              <g
                fontSize={size}
                textAnchor="middle"
                paintOrder="stroke"
                stroke="#fff"
                strokeWidth={size / 3}
                strokeLinejoin="round"
                fill="#161616"
                transform={`translate(${middle.x} ${middle.y})${upright ? " rotate(-90)" : ""}`}
              >
                <text y={-size * 0.15} fontWeight="bold">
                  {piece.name}
                </text>
                <text y={size}>
                  {sizeWords(width, unit).replace(/ \w+$/, "")} by {sizeWords(height, unit)}
                </text>
              </g>
            </g>
          );
        })}
        {sheet.cuts.map((cut) => (
          <line key={cut.number} x1={cut.x0} y1={cut.y0} x2={cut.x1} y2={cut.y1} stroke="#161616" strokeWidth="1.6" />
        ))}
        {sheet.cuts.map((cut) => (
          <g
            key={cut.number}
            transform={`translate(${cut.x0 + (cut.down ? 0 : text)} ${cut.y0 + (cut.down ? text : 0)})`}
          >
            <circle r={text * 0.75} fill="#161616" />
            <text y={text * 0.34} fontSize={text} textAnchor="middle" fill="#fff" fontWeight="bold">
              {cut.number}
            </text>
          </g>
        ))}
      </svg>
      <details className="text-[14px]">
        <summary>{counted(sheet.cuts.length, "cut")} in order</summary>
        <ol className="ml-6 list-decimal">
          {sheet.cuts.map((cut) => (
            <li key={cut.number}>
              Set to <Size of={cut.at} />, cut {cut.down ? "down" : "across"}.
            </li>
          ))}
        </ol>
      </details>
    </li>
  );
}
