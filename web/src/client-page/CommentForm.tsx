import type { ClientFilm } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useId, useState } from "react";
import { Button } from "../ui/Button.tsx";
import { Notice } from "../ui/Notice.tsx";
import { clientApi, memory } from "./client-api.ts";

interface CommentFormProps {
  film: ClientFilm;
  version: number;
  session: string;
  /** Null: a comment of its own. */
  threadId: string | null;
  /** Where the film is, or what is answered stands. */
  seconds: number;
  onChanged: () => Promise<void>;
  /** Null: the form stays. */
  onDone: (() => void) | null;
}

const BOX = "w-full rounded-md border border-line-strong/60 bg-ground px-2.5 py-1.5 text-[14px] text-ink";

/**
 * Something to say about a place in the film. The place is that at which the writing began: the
 * film may go on meanwhile.
 */
export function CommentForm({ version, session, threadId, seconds, onChanged, onDone }: CommentFormProps): ReactNode {
  const id = useId();
  const [name, setName] = useState(memory.get("name") ?? "");
  const [text, setText] = useState("");
  const [heldSeconds, setHeld] = useState<number | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const place = threadId === null ? (heldSeconds ?? seconds) : seconds;
  const send = async (): Promise<void> => {
    setBusy(true);
    setFailure(null);
    try {
      await clientApi.comment(session, { threadId, name: name.trim(), text, version, seconds: place });
      memory.set("name", name.trim());
      setText("");
      setHeld(null);
      await onChanged();
      onDone?.();
    } catch (error) {
      setFailure(`${(error as Error).message} What you wrote is still here.`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <form
      className="mt-2 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <label htmlFor={id} className="text-[13px] text-soft">
        {threadId === null ? `At ${clockText(place)}` : "Your answer"}
      </label>
      <textarea
        id={id}
        value={text}
        rows={3}
        maxLength={2000}
        placeholder={threadId === null ? "What would you like changed?" : ""}
        onChange={({ target }) => {
          setText(target.value);
          setHeld((held) => (target.value === "" ? null : (held ?? seconds)));
        }}
        className={BOX}
      />
      <NameAndSend name={name} onName={setName} onDone={onDone} isBusy={isBusy} text={text} />
      {failure && <Notice kind="error">{failure}</Notice>}
    </form>
  );
}

interface NameAndSendProps {
  name: string;
  onName: (value: string) => void;
  onDone: (() => void) | null;
  isBusy: boolean;
  text: string;
}

/** Who says it, and the button that sends it. */
function NameAndSend({ name, onName, onDone, isBusy, text }: NameAndSendProps): ReactNode {
  return (
    <div className="flex gap-2">
      <input
        aria-label="Your name"
        placeholder="Your name"
        value={name}
        maxLength={60}
        autoComplete="name"
        onChange={({ target }) => onName(target.value)}
        className={`${BOX} min-w-0 flex-1`}
      />
      {onDone && (
        <Button kind="quiet" onClick={onDone}>
          Cancel
        </Button>
      )}
      <Button type="submit" disabled={isBusy || text.trim() === "" || name.trim() === ""}>
        Send
      </Button>
    </div>
  );
}
