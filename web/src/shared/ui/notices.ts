/** Short messages for whoever is working, from anywhere in the code. */
export type Notice = { id: number; text: string; kind: "problem" | "news" };

let notices: Notice[] = [];
let next = 1;
const listeners = new Set<() => void>();

function change(to: Notice[]) {
  notices = to;
  listeners.forEach((listener) => listener());
}

export function tell(text: string, kind: Notice["kind"] = "news") {
  const id = next++;
  change([...notices.filter((notice) => notice.text !== text), { id, text, kind }].slice(-3));
  if (kind === "news") setTimeout(() => dismiss(id), 6000);
}

export function dismiss(id: number) {
  change(notices.filter((notice) => notice.id !== id));
}

export const noticeStore = {
  subscribe: (listener: () => void) => {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  read: () => notices,
};
