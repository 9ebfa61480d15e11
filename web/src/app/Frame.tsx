import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { NavLink, Outlet, useLocation, useMatch } from "react-router";

import { SignOutButton } from "@/features/session";
import { sessionQuery } from "@/shared/api";
import { ErrorBoundary, lastPiece } from "@/shared/ui";

const LINK = "pb-0.5 border-b-2 border-transparent aria-[current=page]:border-ink hover:border-ink";

/** The bar on top and the screen below it. The bench adds its own buttons into the bar's right end. */
export function Frame() {
  const [barEnd, setBarEnd] = useState<HTMLElement | null>(null);
  const { pathname } = useLocation();
  const client = useQueryClient();
  // What broke the screen may be an answer that is still held; the next try asks anew.
  const forgetAnswers = () =>
    client.removeQueries({ predicate: (query) => query.queryKey[0] !== sessionQuery.queryKey[0] });
  const onBench = useMatch("/pieces/:id");
  const bench = onBench?.params.id ?? lastPiece();
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#screen"
        className="sr-only focus:not-sr-only focus:absolute focus:left-2 focus:top-2 focus:bg-sheet focus:p-2"
      >
        Skip to the screen
      </a>
      <header className="flex min-h-11 shrink-0 flex-wrap items-center gap-x-2.5 whitespace-nowrap px-2.5 sm:h-11 sm:flex-nowrap sm:gap-4 sm:px-5 min-[1200px]:gap-8">
        <NavLink to="/" className="font-display text-[21px] font-extrabold tracking-tight">
          Paleta
        </NavLink>
        <nav aria-label="Screens" className="flex gap-2.5 sm:gap-5">
          <NavLink to="/" end className={LINK}>
            Shelf
          </NavLink>
          {bench && (
            <NavLink to={`/pieces/${bench}`} className={LINK}>
              Bench
            </NavLink>
          )}
          <NavLink to="/drawers" className={LINK}>
            Drawer
          </NavLink>
          <NavLink to="/logbook" className={LINK}>
            Logbook
          </NavLink>
        </nav>
        <span
          aria-hidden
          className="keeping pointer-events-none fixed right-5 top-11 z-20 rounded-b bg-ink px-3 py-0.5 text-sheet"
        >
          Keeping…
        </span>
        <div ref={setBarEnd} className="ml-auto flex items-center gap-2" />
        <NavLink to="/account" className={LINK}>
          Account
        </NavLink>
        <SignOutButton />
      </header>
      <main id="screen" className="flex min-h-0 grow flex-col">
        <ErrorBoundary key={pathname} onBroken={forgetAnswers}>
          <Outlet context={barEnd} />
        </ErrorBoundary>
      </main>
    </div>
  );
}
