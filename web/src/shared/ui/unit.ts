import { create } from "zustand";

import type { Unit } from "./words";

const UNIT_KEY = "paleta.unit";

/** Inches or centimetres, as chosen on this device. */
export const useUnit = create<{ unit: Unit; choose: (unit: Unit) => void }>((set) => ({
  unit: globalThis.localStorage?.getItem(UNIT_KEY) === "cm" ? "cm" : "in",
  choose: (unit) => {
    localStorage.setItem(UNIT_KEY, unit);
    set({ unit });
  },
}));
