import { usePiece } from "../bench";

/** What speaks against this ink, paper and medium together; the choice stays the colourist's. */
export function FitAdvice() {
  const piece = usePiece();
  return piece.stamp.fit.map((advice) => (
    <p key={advice.why} role="note" className="mb-2 rounded bg-ink px-3 py-2 text-sheet">
      <strong>{advice.why}</strong> {advice.instead}
    </p>
  ));
}
