import { useCallback, useEffect, useRef } from "react";

const REST_MS = 600;

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
    if (held) newest.current(held.value);
  }, []);
  const later = useCallback(
    (value: Value) => {
      waiting.current = { value };
      clearTimeout(timer.current);
      timer.current = setTimeout(now, REST_MS);
    },
    [now],
  );
  useEffect(() => now, [now]);
  return { later, now };
}
