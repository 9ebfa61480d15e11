import { useEffect, useSyncExternalStore } from "react";

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

const KEY = "paleta.aloud";
const listeners = new Set<() => void>();

export function turnAloud(on: boolean) {
  localStorage.setItem(KEY, on ? "on" : "off");
  if (!on) window.speechSynthesis?.cancel();
  listeners.forEach((listener) => listener());
}

export function useAloudOn(): boolean {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => localStorage.getItem(KEY) === "on",
  );
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
