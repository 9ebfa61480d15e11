import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import { sessionQuery } from "@/shared/api";
import { Failed, Waiting } from "@/shared/ui";
import { SignInPage } from "./SignInPage";

/** Shows its children to whoever is signed in, the sign-in page to everyone else. */
export function SessionGate({ children }: { children: ReactNode }) {
  const session = useQuery(sessionQuery);
  if (session.data) return session.data.username ? children : <SignInPage demo={session.data.demo_available} />;
  if (session.isError)
    return (
      <div className="flex min-h-dvh">
        <Failed error={session.error} onRetry={() => void session.refetch()} />
      </div>
    );
  return (
    <div className="flex min-h-dvh">
      <Waiting what="Opening Paleta" />
    </div>
  );
}
