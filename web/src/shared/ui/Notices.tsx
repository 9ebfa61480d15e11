import { useSyncExternalStore } from "react";

import { dismiss, noticeStore } from "./notices";

export function Notices() {
  const notices = useSyncExternalStore(noticeStore.subscribe, noticeStore.read);
  return (
    <div
      aria-live="polite"
      className="on-dark fixed bottom-28 left-5 z-50 flex w-96 max-w-[90vw] flex-col gap-2 print:hidden"
    >
      {notices.map((notice) => (
        <div
          key={notice.id}
          role={notice.kind === "problem" ? "alert" : "status"}
          className="flex items-start gap-3 rounded bg-ink px-4 py-3 text-sheet shadow-lg"
        >
          <p className="grow">{notice.text}</p>
          <button type="button" onClick={() => dismiss(notice.id)} className="underline underline-offset-4">
            Close
          </button>
        </div>
      ))}
    </div>
  );
}
