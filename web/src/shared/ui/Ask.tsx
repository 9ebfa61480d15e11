import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

type Props = { open: boolean; onClose: () => void; title: string; children: ReactNode; wide?: boolean };

/** A sheet of paper over the bench that asks for one thing. */
export function Ask({ open, onClose, title, children, wide = false }: Props) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40">
      <DialogBackdrop className="fixed inset-0 bg-ink/45" />
      <div className="fixed inset-0 overflow-y-auto">
        <div className="flex min-h-full items-center justify-center p-4">
          <DialogPanel className={`w-full ${wide ? "max-w-2xl" : "max-w-md"} rounded-sm bg-sheet p-6 shadow-2xl`}>
            <DialogTitle className="mb-4 text-xl">{title}</DialogTitle>
            {children}
          </DialogPanel>
        </div>
      </div>
    </Dialog>
  );
}
