import type { ReactNode } from "react";

/** A part of the card's form, with its name and what can be done with the whole of it. */
export function Part({ name, action, children }: { name: string; action?: ReactNode; children?: ReactNode }) {
  return (
    <section aria-label={name} className="border-t border-line py-3">
      <div className="flex items-baseline justify-between gap-3">
        <h2 className="text-[17px]">{name}</h2>
        {action}
      </div>
      {children}
    </section>
  );
}
