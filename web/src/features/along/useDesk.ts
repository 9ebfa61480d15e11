import { useEffect, useMemo, useState, useSyncExternalStore } from "react";

import { courseOf, type Step } from "./course";
import { Desk, type DeskState } from "./desk";
import { replay, type Progress } from "./replay";

export type AtDesk = { desk: Desk; state: DeskState; course: Step[]; progress: Progress | null };

/** The run on this device, with what its log adds up to. */
export function useDesk(id: number): AtDesk {
  const [desk] = useState(() => new Desk(id));
  useEffect(() => desk.open(), [desk]);
  const state = useSyncExternalStore(desk.subscribe, desk.read);
  const run = state.kept?.run;
  const course = useMemo(() => (run ? courseOf(run) : []), [run]);
  const progress = useMemo(
    () => (run ? replay(run, [...run.log, ...state.unsent.flatMap(({ event }) => event ?? [])]) : null),
    [run, state.unsent],
  );
  return { desk, state, course, progress };
}
