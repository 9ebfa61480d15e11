import { useState, type FormEvent } from "react";

import { LIMITS, Problem } from "@/shared/api";
import { Button, Refusal } from "@/shared/ui";
import { useOpenAccount, useOpenDemo, useSignIn } from "./api";

export function SignInPage({ demo }: { demo: boolean }) {
  const [fresh, setFresh] = useState(false);
  const signIn = useSignIn();
  const openAccount = useOpenAccount();
  const openDemo = useOpenDemo();
  const enter = fresh ? openAccount : signIn;
  const error = enter.error ?? openDemo.error;

  function submit(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    enter.mutate({ username: form.get("username") as string, password: form.get("password") as string });
  }

  return (
    <main className="grid min-h-dvh place-items-center p-6">
      <div className="w-full max-w-md">
        <LampMark />
        <div className="rounded-sm bg-sheet p-8 shadow-xl">
          <h1 className="text-3xl">Paleta</h1>
          <p className="mb-6 mt-1 text-soft">Light, shades and order for stamped images you colour by hand.</p>
          {demo && (
            <div className="mb-6 border-b border-line pb-6">
              <Button kind="main" className="w-full py-2.5" busy={openDemo.isPending} onClick={() => openDemo.mutate()}>
                Open the demo bench
              </Button>
              <p className="mt-2 text-[13px] text-soft">
                Eight stamped images with their recipes, a drawer for every medium, nothing to fill in.
              </p>
            </div>
          )}
          <form onSubmit={submit} className="flex flex-col gap-3">
            <label className="block">
              Name
              <input
                name="username"
                autoComplete="username"
                required
                maxLength={LIMITS.SignInRequest.username.maxLength}
                className="field mt-1"
              />
            </label>
            <label className="block">
              Password
              <input
                name="password"
                type="password"
                required
                autoComplete={fresh ? "new-password" : "current-password"}
                className="field mt-1"
              />
            </label>
            <Refusal error={error && sentence(error)} />
            <Button type="submit" kind={demo ? "plain" : "main"} busy={enter.isPending} className="py-2">
              {fresh ? "Open an account" : "Sign in"}
            </Button>
          </form>
          <Button
            kind="quiet"
            className="mt-4"
            onClick={() => {
              setFresh(!fresh);
              enter.reset();
            }}
          >
            {fresh ? "I have an account already" : "I am new here"}
          </Button>
        </div>
      </div>
    </main>
  );
}

function sentence(error: Error): string {
  return error instanceof Problem ? (Object.values(error.fields)[0] ?? error.message) : error.message;
}

/** A ball under a lamp: what the whole tool is about. */
function LampMark() {
  return (
    <svg viewBox="0 0 400 90" className="mb-2 w-full" aria-hidden>
      <defs>
        <radialGradient id="ball" cx="0.34" cy="0.28" r="0.8">
          <stop offset="0" stopColor="#fff" />
          <stop offset="0.55" stopColor="#b5b5b5" />
          <stop offset="1" stopColor="#3a3a3a" />
        </radialGradient>
      </defs>
      <path d="M40 78A160 78 0 0 1 360 78" fill="none" stroke="#161616" strokeOpacity="0.45" />
      <circle cx="118" cy="18" r="13" fill="#ffd21f" stroke="#161616" strokeWidth="2" />
      <circle cx="118" cy="18" r="4" fill="#fff" />
      <circle cx="200" cy="52" r="32" fill="url(#ball)" />
    </svg>
  );
}
