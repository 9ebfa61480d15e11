import { useState } from "react";

type Change<Value> = (now: Value) => Value;

/**
 * A value that is sent whole and changed faster than the server answers. Each change is made on what the one before it
 * left, so none undoes another; `shown` is the kept value with all changes that are still on their way. A change must
 * give the same when it is made twice.
 */
export function useQueued<Value>(kept: Value, send: (change: Change<Value>) => Promise<unknown>) {
  const [waiting, setWaiting] = useState<readonly Change<Value>[]>([]);
  const shown = waiting.reduce((now, change) => change(now), kept);
  function make(change: Change<Value>) {
    setWaiting((all) => [...all, change]);
    send(change)
      .catch(() => undefined)
      .finally(() => setWaiting((all) => all.filter((one) => one !== change)));
  }
  return [shown, make] as const;
}
