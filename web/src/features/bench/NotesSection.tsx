import { useDescribeStamp } from "./api";
import { useBench } from "./bench";
import { KeptField } from "./KeptField";

export function NotesSection({ field, label, hint }: { field: "finish" | "card"; label: string; hint: string }) {
  const { piece } = useBench();
  const describe = useDescribeStamp(piece.id);
  return (
    <div>
      <KeptField label={label} value={piece[field]} maxLength={2000} lines={4} onKeep={(text) => describe.mutate({ [field]: text })} />
      <p className="mt-1 text-[13px] text-soft">{hint}</p>
    </div>
  );
}
