import { useEffect } from "react";

/** Keeps the application itself on this device, so that a run goes on after a reload without the server. */
export function useShell() {
  useEffect(() => {
    if (!import.meta.env.PROD || !("serviceWorker" in navigator)) return;
    void import("workbox-window").then(({ Workbox }) => new Workbox("/shell.js").register());
  }, []);
}
