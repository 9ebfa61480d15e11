import { useState } from "react";
import { Link, useParams } from "react-router";

import { Failed, Waiting } from "@/shared/ui";
import { LayOut } from "./LayOut";
import { Outcome } from "./Outcome";
import { nextUp } from "./progress";
import { Stage } from "./Stage";
import { useShell } from "./shell";
import { useAwake } from "./surroundings";
import { useRunSync } from "./useRunSync";

/** Colouring along: what to lay out, then stint by stint, then what came of it. Works on without the server. */
export function AlongPage() {
  const id = Number(useParams().id);
  return <Along key={id} id={id} />;
}

function Along({ id }: { id: number }) {
  const at = useRunSync(id);
  const { sync, state, course, progress } = at;
  const [begun, setBegun] = useState(false);
  useAwake();
  useShell();
  const kept = state.kept;
  if (!kept || !progress)
    return (
      <div className="flex min-h-dvh flex-col">
        {state.problem?.status === 401 ? (
          <SignInFirst />
        ) : state.problem ? (
          <Failed error={state.problem} onRetry={() => void sync.fetch()} />
        ) : state.online ? (
          <Waiting what="Laying out" />
        ) : (
          <Failed
            error={new Error("This run is not on this device yet, and Paleta does not answer.")}
            onRetry={() => void sync.fetch()}
          />
        )}
      </div>
    );
  const laid = progress.cards.some((card) => card.laid.size > 0 || card.handled.size > 0);
  const over = nextUp(progress, course, 1).length === 0;
  return (
    <div className="flex min-h-dvh flex-col bg-surround">
      {over ? (
        <Outcome at={{ ...at, progress }} kept={kept} />
      ) : begun || laid ? (
        <Stage at={{ ...at, progress }} kept={kept} />
      ) : (
        <LayOut run={kept.run} state={state} sync={sync} onBegin={() => setBegun(true)} />
      )}
    </div>
  );
}

function SignInFirst() {
  return (
    <div className="m-auto max-w-md rounded bg-sheet p-6 shadow-lg">
      <h1 className="mb-2 text-lg">Sign in first</h1>
      <p className="mb-4">What you ticked off on this device is kept until then.</p>
      <Link to="/" className="underline underline-offset-4">
        To the sign-in page
      </Link>
    </div>
  );
}
