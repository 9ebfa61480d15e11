import type { ComponentProps } from "react";

const KINDS = {
  main: "bg-ink text-sheet hover:bg-black disabled:bg-soft",
  plain: "border border-ink bg-sheet text-ink hover:bg-faint disabled:border-line disabled:text-soft",
  bar: "bg-surround-light text-ink hover:bg-[#cacaca] disabled:text-soft disabled:opacity-60",
  quiet: "underline underline-offset-4 decoration-1 hover:decoration-2 disabled:no-underline disabled:text-soft",
};

type Props = ComponentProps<"button"> & { kind?: keyof typeof KINDS; busy?: boolean };

export function Button({ kind = "plain", busy = false, className = "", disabled, children, ...rest }: Props) {
  const padding = kind === "quiet" ? "" : "rounded px-3 py-1.5 ";
  return (
    <button
      type="button"
      {...rest}
      disabled={disabled || busy}
      aria-busy={busy || undefined}
      className={`${padding}${KINDS[kind]} ${className}`}
    >
      {children}
      {busy && <span aria-hidden> …</span>}
    </button>
  );
}
