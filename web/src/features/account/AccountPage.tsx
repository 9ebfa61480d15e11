import { useQuery } from "@tanstack/react-query";

import { sessionQuery } from "@/shared/api";
import { Tick, turnSingleKeys, useSingleKeysOn } from "@/shared/ui";
import { BackupBox } from "./BackupBox";
import { PasswordForm } from "./PasswordForm";
import { StorageBox } from "./StorageBox";

/** What belongs to whoever is signed in, beside their pieces and drawers. */
export function AccountPage() {
  const session = useQuery(sessionQuery).data;
  const keysOn = useSingleKeysOn();
  return (
    <div className="mx-auto grid w-full max-w-5xl gap-5 px-5 pb-10 pt-2 min-[860px]:grid-cols-2">
      <h1 className="col-span-full text-[26px]">Account{session?.username && ` of ${session.username}`}</h1>
      <Panel title="Backup">
        <BackupBox />
      </Panel>
      <div className="flex flex-col gap-5">
        {session?.demo_ends_at ? (
          <Panel title="A copy of the demo">
            <p>
              What you do here nobody else sees. It goes a day after you last used it; a backup brings it into an
              account of your own.
            </p>
          </Panel>
        ) : (
          <Panel title="Another password">
            <PasswordForm />
          </Panel>
        )}
        <Panel title="What lies here">
          <StorageBox />
        </Panel>
        <Panel title="Keys">
          <Tick checked={keysOn} onKeep={turnSingleKeys}>
            Single keys do something by themselves
            <span className="block text-[13px] text-soft">
              1 to 5 change the view of the picture. Turn this off if you speak to the computer, or press keys by
              mistake.
            </span>
          </Tick>
        </Panel>
      </div>
    </div>
  );
}

function Panel({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section aria-label={title} className="h-fit rounded-sm bg-sheet p-6 shadow-lg">
      <h2 className="mb-3 text-xl">{title}</h2>
      {children}
    </section>
  );
}
