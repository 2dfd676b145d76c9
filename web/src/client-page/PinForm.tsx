import { LockKeyhole } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { Notice } from "../ui/Notice.tsx";

/**
 * Asks for the PIN; after several wrong ones the server makes everyone wait, and says for how long.
 */
export function PinForm({
  message,
  onEnter,
}: {
  message: string | null;
  onEnter: (pin: string) => Promise<void>;
}): ReactNode {
  const [pin, setPin] = useState("");
  const [isBusy, setBusy] = useState(false);
  return (
    <main className="flex h-full items-center justify-center px-6">
      <form
        className="flex w-full max-w-sm flex-col gap-4 rounded-xl border border-line bg-raised p-7"
        onSubmit={(event) => {
          event.preventDefault();
          setBusy(true);
          void onEnter(pin.trim()).finally(() => {
            setBusy(false);
            setPin("");
          });
        }}
      >
        <h1 className="flex items-center gap-2.5 text-[22px]">
          <LockKeyhole size={20} aria-hidden className="text-soft" /> A private film
        </h1>
        <label className="flex flex-col gap-1.5 text-[14px] text-soft">
          The PIN that came with the address
          <input
            value={pin}
            onChange={({ target }) => setPin(target.value)}
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={12}
            // biome-ignore lint/a11y/noAutofocus: there is nothing else to do on this page
            autoFocus
            className="rounded-md border border-line-strong/60 bg-ground px-3 py-2.5 text-center text-[22px] tracking-[0.3em] text-ink"
          />
        </label>
        {message && <Notice kind="error">{message}</Notice>}
        <Button type="submit" kind="primary" className="py-2.5 text-[15px]" disabled={isBusy || pin.trim() === ""}>
          {isBusy ? "Looking …" : "To the film"}
        </Button>
      </form>
    </main>
  );
}
