import { useEffect, useMemo, useState, useSyncExternalStore } from "react";

import { courseOf, type CourseStep } from "./course";
import { RunSync, type RunSyncState } from "./runSync";
import { replay, type Progress } from "./replay";
import { useStepSize } from "./surroundings";

export type SyncedRun = { sync: RunSync; state: RunSyncState; course: CourseStep[]; progress: Progress | null };

/** The run on this device, with what its log adds up to. */
export function useRunSync(id: number): SyncedRun {
  const [sync] = useState(() => new RunSync(id));
  useEffect(() => sync.open(), [sync]);
  const state = useSyncExternalStore(sync.subscribe, sync.read);
  const run = state.kept?.run;
  const size = useStepSize();
  const course = useMemo(() => (run ? courseOf(run, size) : []), [run, size]);
  const progress = useMemo(
    () => (run ? replay(run, [...run.log, ...state.unsent.flatMap(({ event }) => event ?? [])]) : null),
    [run, state.unsent],
  );
  return { sync, state, course, progress };
}
