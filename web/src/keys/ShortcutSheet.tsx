import { Switch } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { DialogBox } from "../ui/DialogBox.tsx";
import { SHORTCUTS, type Shortcut } from "./keys.ts";
import { LetterFields } from "./LetterFields.tsx";
import { letterKeysOn, setLetterKeys, useLetters } from "./letters.ts";

export function ShortcutSheet({ open, onClose }: { open: boolean; onClose: () => void }): ReactNode {
  const [letters, setLetters] = useState(letterKeysOn);
  const [changes, setChanges] = useState(false);
  const assigned = useLetters();
  const textOf = ({ keys }: Shortcut): string =>
    typeof keys === "string" ? keys : keys.map((name) => assigned[name].toUpperCase()).join(" / ");
  return (
    <DialogBox
      open={open}
      onClose={onClose}
      title="Keys"
      width={600}
      actions={
        <>
          <label className="mr-auto flex items-center gap-2 text-[13px] text-soft">
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
          <Button aria-pressed={changes} onClick={() => setChanges(!changes)}>
            {changes ? "Show all keys" : "Change letters"}
          </Button>
          <Button onClick={onClose}>Close</Button>
        </>
      }
    >
      {changes ? (
        <LetterFields />
      ) : (
        <table className="w-full text-[13px]">
          <tbody>
            {SHORTCUTS.map((shortcut) => (
              <tr key={`${shortcut.does} ${shortcut.where}`} className="border-t border-line first:border-0">
                <td className="py-1.5 pr-4 font-semibold whitespace-nowrap">{textOf(shortcut)}</td>
                <td className="py-1.5 pr-4 text-soft">{shortcut.does}</td>
                <td className="py-1.5 text-right whitespace-nowrap text-quiet">{shortcut.where}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </DialogBox>
  );
}
