import { useCallback, useEffect, useRef } from "react";

const REST_MS = 600;
/** How many values wait for their keys to rest; while any does, the page says so (`data-resting`). */
let resting = 0;

function count(by: 1 | -1) {
  resting += by;
  document.documentElement.toggleAttribute("data-resting", resting > 0);
}

/**
 * Keeps what keys set once they rest: an arrow that is held down is one change, not thirty. `later` waits for the rest,
 * `now` keeps at once what waits, and so does leaving the page's part.
 */
export function useAtRest<Value>(keep: (value: Value) => void) {
  const waiting = useRef<{ value: Value } | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const newest = useRef(keep);
  useEffect(() => {
    newest.current = keep;
  });
  const now = useCallback(() => {
    clearTimeout(timer.current);
    const held = waiting.current;
    waiting.current = null;
    if (!held) return;
    count(-1);
    newest.current(held.value);
  }, []);
  const later = useCallback(
    (value: Value) => {
      if (!waiting.current) count(1);
      waiting.current = { value };
      clearTimeout(timer.current);
      timer.current = setTimeout(now, REST_MS);
    },
    [now],
  );
  useEffect(() => now, [now]);
  return { later, now };
}
