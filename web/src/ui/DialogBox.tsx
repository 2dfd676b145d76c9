import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button.tsx";

interface DialogBoxProps {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  /** Buttons at the foot, the primary one last; without any there is "Close". */
  actions?: ReactNode;
  width?: number;
}

/**
 * A question or a list over the page; Escape and a click beside it close it, and focus goes back to
 * where it was.
 */
export function DialogBox({ open, onClose, title, children, actions, width = 480 }: DialogBoxProps): ReactNode {
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/55" />
        <Dialog.Content
          aria-describedby={undefined}
          style={{ width }}
          className="fixed top-1/2 left-1/2 z-50 flex max-h-[88vh] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 flex-col rounded-xl border border-line bg-raised p-6 shadow-2xl"
        >
          <Dialog.Title className="mb-4 shrink-0 font-heading text-xl">{title}</Dialog.Title>
          <div className="-mx-1 min-h-0 flex-1 overflow-y-auto p-1">{children}</div>
          <div className="mt-5 flex shrink-0 justify-end gap-2">
            {actions ?? (
              <Dialog.Close asChild>
                <Button>Close</Button>
              </Dialog.Close>
            )}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
