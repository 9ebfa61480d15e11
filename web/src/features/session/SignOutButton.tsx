import { useQuery } from "@tanstack/react-query";

import { sessionQuery } from "@/shared/api";
import { Button } from "@/shared/ui";
import { useSignOut } from "./api";

export function SignOutButton() {
  const session = useQuery(sessionQuery);
  const signOut = useSignOut();
  return (
    <Button
      kind="quiet"
      busy={signOut.isPending}
      onClick={() => signOut.mutate()}
      title={`Signed in as ${session.data?.username}`}
    >
      Sign out
    </Button>
  );
}
