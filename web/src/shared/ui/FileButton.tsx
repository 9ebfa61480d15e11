import type { ReactNode } from "react";

const LOOKS = {
  quiet: "underline underline-offset-4",
  plain: "inline-block rounded border border-ink px-3 py-1.5 has-disabled:border-line has-disabled:text-soft",
  drop: "block rounded border-2 border-dashed border-soft p-3 text-center font-bold",
};

type Props = {
  /** What the field is called where its words do not say it. */
  name: string;
  accept: string;
  onFile: (file: File) => void;
  look?: keyof typeof LOOKS;
  disabled?: boolean;
  children: ReactNode;
};

/** Words that open the file dialog. The same file can be chosen again: it may have been changed meanwhile. */
export function FileButton({ name, accept, onFile, look = "quiet", disabled = false, children }: Props) {
  return (
    <label className={`cursor-pointer focus-within:outline-3 ${LOOKS[look]}`}>
      {children}
      <input
        type="file"
        className="sr-only"
        accept={accept}
        aria-label={name}
        disabled={disabled}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = "";
          if (file) onFile(file);
        }}
      />
    </label>
  );
}
