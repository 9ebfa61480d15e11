import { useState } from "react";

/** What is being typed or dragged: starts at `value`, and starts again whenever `value` changes elsewhere. */
export function useDraft<Value>(value: Value): [Value, (draft: Value) => void] {
  const [state, setState] = useState({ value, draft: value });
  if (!Object.is(state.value, value)) setState({ value, draft: value });
  return [state.draft, (draft) => setState({ value, draft })];
}
