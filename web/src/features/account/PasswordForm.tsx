import { useState, type FormEvent } from "react";

import { LIMITS } from "@/shared/api";
import { Button, Refusal, tell } from "@/shared/ui";
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
      <PasswordField label="The one you have now" kind="current-password" value={old} onChange={setOld} />
      <PasswordField label="The new one" kind="new-password" value={fresh} onChange={setFresh} />
      <Refusal error={change.error} />
      <div>
        <Button type="submit" busy={change.isPending}>
          Change it
        </Button>
      </div>
    </form>
  );
}

type FieldProps = { label: string; kind: string; value: string; onChange: (value: string) => void };

function PasswordField({ label, kind, value, onChange }: FieldProps) {
  return (
    <label className="block">
      {label}
      <input
        type="password"
        className="field mt-1"
        autoComplete={kind}
        maxLength={LONGEST}
        required
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
