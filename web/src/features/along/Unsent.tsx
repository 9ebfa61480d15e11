import type { Unsent } from "@/shared/api/runStore";
import { Button, counted } from "@/shared/ui";
import type { RunSync, RunSyncState } from "./runSync";

type Props = { state: RunSyncState; sync: RunSync };

/** What the server has not taken yet: a quiet line, and by name whatever it refused. */
export function UnsentLine({ state, sync }: Props) {
  const refused = state.unsent.filter((one) => one.refused !== undefined);
  return (
    <>
      <Waiting state={state} count={state.unsent.length - refused.length} />
      {refused.length > 0 && (
        <section aria-label="Not taken into the log" className="my-2 rounded border border-ink p-3">
          <p className="font-bold">Not taken into the log, and kept on this device</p>
          <ul>
            {refused.map((one) => (
              <li key={one.id} className="flex flex-wrap items-baseline gap-x-3">
                <span className="grow">
                  {named(one)}: {one.refused}
                </span>
                <Button kind="quiet" onClick={() => void sync.sendAgain(one.id)}>
                  Send again
                </Button>
                <Button kind="quiet" onClick={() => void sync.discard(one.id)}>
                  Throw away
                </Button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

function Waiting({ state, count }: { state: RunSyncState; count: number }) {
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

/** What a line says, and when it was written. */
function named({ at_s, event, photo }: Unsent): string {
  const time = new Date(at_s * 1000).toLocaleString([], { dateStyle: "short", timeStyle: "short" });
  if (photo) return `A photo of ${time}`;
  const passes = event?.passes?.length ? `Pass ${event.passes.join(", ")}` : "A line";
  return event?.kind === "laid" ? `${passes} done, ${time}` : `${passes}, ${event?.kind ?? ""}, ${time}`;
}
