import type { SwatchRecord } from "@/shared/api";
import { swatchStyle } from "@/shared/ui";

/** The drawer as a list. Rows outside the window are not drawn, so thousands stay smooth. */
export function DrawerList({
  records,
  chosen,
  onChoose,
  apart,
}: {
  records: SwatchRecord[];
  chosen: string | null;
  onChoose: (code: string) => void;
  apart: Map<string, number> | null;
}) {
  return (
    <ul aria-label="Swatches" className="max-h-[64vh] grow overflow-y-auto rounded-sm bg-sheet shadow">
      {records.map((record) => (
        <li key={record.code} className="[contain-intrinsic-size:auto_34px] [content-visibility:auto]">
          <button
            type="button"
            aria-pressed={record.code === chosen}
            onClick={() => onChoose(record.code)}
            className="grid w-full grid-cols-[2rem_minmax(0,1fr)_9rem_8rem_7rem] items-center gap-3 border-b border-faint px-3 py-1 text-left outline-offset-[-3px] hover:bg-faint aria-pressed:bg-ink/10"
          >
            <span className="size-6 rounded-sm border border-line bg-(--swatch)" style={swatchStyle(record.hex)} />
            <span className="truncate">
              {record.name}
              {record.running_low && " · running low"}
              {record.retired && " · retired"}
            </span>
            <span className="truncate text-[13px] text-soft">{record.code}</span>
            <span className="truncate text-[13px] text-soft">{record.words}</span>
            <span className="text-right text-[13px]">
              {apart
                ? `off by ${apart.get(record.code)?.toFixed(1) ?? "–"}`
                : record.lab.map((value) => value.toFixed(0)).join(" · ")}
            </span>
          </button>
        </li>
      ))}
      {records.length === 0 && <li className="p-4">Nothing in this drawer fits.</li>}
    </ul>
  );
}
