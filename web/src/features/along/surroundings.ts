import { useEffect, useSyncExternalStore } from "react";

import type { StepSize } from "./course";

/** Keeps the screen from going dark, where the browser can. */
export function useAwake() {
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let left = false;
    const ask = async () => {
      if (document.visibilityState !== "visible" || !("wakeLock" in navigator)) return;
      try {
        lock = await navigator.wakeLock.request("screen");
        if (left) void lock.release();
      } catch {
        // A battery that runs low may forbid it; the run goes on all the same.
      }
    };
    const askAgain = () => void ask();
    askAgain();
    document.addEventListener("visibilitychange", askAgain);
    return () => {
      left = true;
      document.removeEventListener("visibilitychange", askAgain);
      void lock?.release();
    };
  }, []);
}

const ALOUD = "paleta.aloud";
const SIZE = "paleta.step";
const listeners = new Set<() => void>();

/** What this device keeps of how its person works. */
function useKept(key: string): string | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => localStorage.getItem(key),
  );
}

function keep(key: string, value: string) {
  localStorage.setItem(key, value);
  listeners.forEach((listener) => listener());
}

export function turnAloud(on: boolean) {
  if (!on) window.speechSynthesis?.cancel();
  keep(ALOUD, on ? "on" : "off");
}

export function useAloudOn(): boolean {
  return useKept(ALOUD) === "on";
}

export function chooseStepSize(size: StepSize) {
  keep(SIZE, size);
}

export function useStepSize(): StepSize {
  return useKept(SIZE) === "pen" ? "pen" : "thing";
}

/** Reads `words` aloud by the browser's own voice whenever they change; off unless it was turned on. */
export function useAloud(words: string) {
  const on = useAloudOn();
  useEffect(() => {
    if (!on || !words || !("speechSynthesis" in window)) return;
    window.speechSynthesis.cancel();
    window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
  }, [on, words]);
}

/** The time in seconds, renewed every second. */
function subscribeSeconds(listener: () => void) {
  const timer = setInterval(listener, 1000);
  return () => clearInterval(timer);
}

export function useSeconds(): number {
  return useSyncExternalStore(subscribeSeconds, () => Math.floor(Date.now() / 1000));
}
