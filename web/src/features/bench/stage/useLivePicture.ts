import { useEffect, useRef, useState, type RefObject } from "react";

import { api, Problem } from "@/shared/api";

/**
 * Draws the picture at `path` on `canvas`. One request at a time, and always the newest wish next: however fast the
 * lamp turns, the picture is at most one step behind and never shows an older one after a newer.
 */
export function useLivePicture(canvas: RefObject<HTMLCanvasElement | null>, path: string) {
  const wanted = useRef(path);
  const shown = useRef("");
  const busy = useRef(false);
  const alive = useRef(true);
  const [state, setState] = useState<{ drawn: boolean; busy: boolean; error: string | null }>({
    drawn: false,
    busy: true,
    error: null,
  });
  const [attempt, setAttempt] = useState(0);

  useEffect(() => {
    wanted.current = path;
    alive.current = true;
    async function pump() {
      if (busy.current) return;
      busy.current = true;
      const slow = window.setTimeout(() => setState((now) => ({ ...now, busy: true })), 300);
      try {
        while (alive.current && shown.current !== wanted.current) {
          const next = wanted.current;
          const bitmap = await createImageBitmap(await api.blob(next));
          const surface = canvas.current;
          if (surface) {
            if (surface.width !== bitmap.width || surface.height !== bitmap.height) {
              surface.width = bitmap.width;
              surface.height = bitmap.height;
            }
            surface.getContext("2d")?.drawImage(bitmap, 0, 0);
            surface.dataset["shown"] = next;
          }
          bitmap.close();
          shown.current = next;
        }
        window.clearTimeout(slow);
        setState({ drawn: true, busy: false, error: null });
      } catch (error) {
        window.clearTimeout(slow);
        setState((now) => ({
          ...now,
          busy: false,
          error: error instanceof Problem ? error.message : "The picture cannot be drawn.",
        }));
      } finally {
        busy.current = false;
      }
    }
    void pump();
  }, [canvas, path, attempt]);

  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);

  return { ...state, retry: () => setAttempt((count) => count + 1) };
}
