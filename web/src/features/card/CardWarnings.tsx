import { Button } from "@/shared/ui";
import { useCard } from "./card";

/** What speaks against the card as it is, each with what would mend it. */
export function CardWarnings() {
  const { laid, change } = useCard();
  if (laid.warnings.length === 0) return null;
  return (
    <ul aria-label="What to look at" className="mb-3 border-t border-line">
      {laid.warnings.map((one) => (
        <li key={`${one.code} ${one.about}`} className="border-b border-faint py-1.5 text-[14px]">
          <strong>{one.about}.</strong> {one.sentence}{" "}
          {one.mended && (
            <Button kind="quiet" onClick={() => void change((spec) => one.mended ?? spec).catch(() => undefined)}>
              {one.remedy}
            </Button>
          )}
        </li>
      ))}
    </ul>
  );
}
