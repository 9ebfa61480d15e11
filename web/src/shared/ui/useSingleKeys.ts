import { useEffect, useSyncExternalStore } from "react";

const KEY = "paleta.single-keys";
const listeners = new Set<() => void>();

/** Whether keys without Ctrl or Alt do something by themselves. Voice control types letters: it can be turned off. */
function singleKeysOn(): boolean {
  return localStorage.getItem(KEY) !== "off";
}

export function turnSingleKeys(on: boolean) {
  localStorage.setItem(KEY, on ? "on" : "off");
  listeners.forEach((listener) => listener());
}

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

export function useSingleKeysOn(): boolean {
  return useSyncExternalStore(subscribe, singleKeysOn);
}

const TYPING = "input:not([type=range]):not([type=checkbox]):not([type=radio]), textarea, select";

/** Calls `onKey` for a key pressed by itself, unless somebody types or such keys are turned off. */
export function useSingleKeys(onKey: (key: string) => void) {
  const on = useSingleKeysOn();
  useEffect(() => {
    if (!on) return;
    const listen = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.matches(TYPING);
      if (!typing && !event.ctrlKey && !event.metaKey && !event.altKey) onKey(event.key);
    };
    window.addEventListener("keydown", listen);
    return () => window.removeEventListener("keydown", listen);
  }, [on, onKey]);
}
