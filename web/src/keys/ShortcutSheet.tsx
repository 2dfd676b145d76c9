import { Dialog, Switch } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { letterKeysOn, SHORTCUTS, setLetterKeys } from "./keys.ts";

export function ShortcutSheet({ open, onClose }: { open: boolean; onClose: () => void }): ReactNode {
  const [letters, setLetters] = useState(letterKeysOn);
  return (
    <Dialog.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/55" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 w-[560px] max-w-[92vw] -translate-x-1/2 -translate-y-1/2 rounded-xl border border-line bg-raised p-6 shadow-2xl"
        >
          <Dialog.Title className="mb-4 font-heading text-xl">Keys</Dialog.Title>
          <table className="w-full text-[13px]">
            <tbody>
              {SHORTCUTS.map((shortcut) => (
                <tr key={shortcut.keys} className="border-t border-line first:border-0">
                  <td className="py-1.5 pr-4 font-semibold whitespace-nowrap">{shortcut.keys}</td>
                  <td className="py-1.5 pr-4 text-soft">{shortcut.does}</td>
                  <td className="py-1.5 text-right whitespace-nowrap text-quiet">{shortcut.where}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-4 flex items-center justify-between gap-4">
            <label className="flex items-center gap-2 text-[13px] text-soft">
              <Switch.Root
                checked={letters}
                onCheckedChange={(on) => {
                  setLetterKeys(on);
                  setLetters(on);
                }}
                className="relative h-5 w-9 rounded-full border border-line-strong bg-ground data-[state=checked]:bg-soft"
              >
                <Switch.Thumb className="block size-3.5 translate-x-0.5 rounded-full bg-line-strong transition-transform data-[state=checked]:translate-x-[18px] data-[state=checked]:bg-ground" />
              </Switch.Root>
              Single-letter keys
            </label>
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
