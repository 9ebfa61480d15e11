import { LIMITS } from "@/shared/api";
import { KeptField } from "./KeptField";

type Props = { label: string; hint: string; notes: string; onKeep: (notes: string) => void };

/** Room for words of one's own. */
export function NotesField({ label, hint, notes, onKeep }: Props) {
  return (
    <div>
      <KeptField
        label={label}
        value={notes}
        maxLength={LIMITS.FinishFormRequest.notes.maxLength}
        lines={4}
        onKeep={onKeep}
      />
      <p className="mt-1 text-[13px] text-soft">{hint}</p>
    </div>
  );
}
