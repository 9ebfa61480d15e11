import { useState, type FormEvent } from "react";

import { LIMITS, Problem } from "@/shared/api";
import { Button, tell } from "@/shared/ui";
import { useChangePassword } from "./api";

const LONGEST = LIMITS.NewPasswordRequest.new.maxLength;

export function PasswordForm() {
  const change = useChangePassword();
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");

  function submit(event: FormEvent) {
    event.preventDefault();
    change.mutate(
      { old, new: fresh },
      {
        onSuccess: () => {
          setOld("");
          setFresh("");
          tell("The password is changed. Other devices have to sign in again.");
        },
      },
    );
  }

  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <label className="block">
        The one you have now
        <input
          type="password"
          className="field mt-1"
          autoComplete="current-password"
          maxLength={LONGEST}
          required
          value={old}
          onChange={(event) => setOld(event.target.value)}
        />
      </label>
      <label className="block">
        The new one
        <input
          type="password"
          className="field mt-1"
          autoComplete="new-password"
          maxLength={LONGEST}
          required
          value={fresh}
          onChange={(event) => setFresh(event.target.value)}
        />
      </label>
      {change.error && (
        <p role="alert" className="rounded bg-ink px-3 py-2 text-sheet">
          {change.error instanceof Problem
            ? (Object.values(change.error.fields)[0] ?? change.error.message)
            : change.error.message}
        </p>
      )}
      <div>
        <Button type="submit" busy={change.isPending}>
          Change it
        </Button>
      </div>
    </form>
  );
}
