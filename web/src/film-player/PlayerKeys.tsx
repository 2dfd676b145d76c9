import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

const KEYS: readonly (readonly [string, string])[] = [
  ["Space", "play or stop; by hand: next slide"],
  ["Right, Page down", "next slide"],
  ["Left, Page up", "slide before"],
  ["Home, End", "beginning, end"],
  ["B", "by hand, or by itself"],
  ["F", "full screen"],
  ["?", "these keys"],
];

/** `container`: what fills the screen, since nothing outside of it is seen then. */
export function PlayerKeys({ container, onClose }: { container: HTMLElement | null; onClose: () => void }): ReactNode {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal container={container}>
        <Dialog.Overlay className="absolute inset-0 bg-black/60" />
        <Dialog.Content
          aria-describedby={undefined}
          className="absolute left-1/2 top-1/2 w-[26rem] max-w-[90%] -translate-x-1/2 -translate-y-1/2 rounded-lg border border-line bg-raised p-5 text-[14px] text-ink"
        >
          <Dialog.Title className="mb-3 text-[18px]">Keys</Dialog.Title>
          <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt className="font-semibold">{key}</dt>
                <dd className="text-soft">{what}</dd>
              </div>
            ))}
          </dl>
          <p className="mt-3 text-[13px] text-quiet">A finger swipes from slide to slide; a tap plays or stops.</p>
          <Dialog.Close className="mt-4 rounded-md border border-line-strong/60 bg-high px-3 py-1.5 text-[13px]">
            Close
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
