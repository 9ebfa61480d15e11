import { counted } from "@/shared/ui";
import type { RunSyncState } from "./runSync";

/** A quiet line about what the server has not taken yet. */
export function UnsentLine({ state }: { state: RunSyncState }) {
  const count = state.unsent.length;
  if (state.problem?.status === 401)
    return <p role="status">Signed out. What you tick off is kept here until you sign in again.</p>;
  if (state.problem) return <p role="status">{state.problem.message}</p>;
  if (state.online && count < 3) return null;
  return (
    <p role="status">
      {state.online ? "" : "Paleta does not answer; go on all the same. "}
      {count > 0 && `${counted(count, "line is", "lines are")} kept on this device and not sent yet.`}
    </p>
  );
}
