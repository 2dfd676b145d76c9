import { type ChangeClientPage, originSchema, pinSchema, type StudioClientPage } from "@humming-tide/contract";
import { counted, wordFor } from "@humming-tide/core/language";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { useClientPageAction } from "../../../comments/use-client-page-action.ts";
import { useShowId } from "../../../store/open-show.ts";
import { Button } from "../../../ui/Button.tsx";
import { DialogBox } from "../../../ui/DialogBox.tsx";
import { timeText } from "../../../ui/date-text.ts";
import { Field } from "../../../ui/Field.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { Panel } from "../../../ui/Panel.tsx";
import { SlowTick } from "../../../ui/SlowTick.tsx";

type Page = NonNullable<StudioClientPage["page"]>;

/**
 * Who may see the page, for how long, and where it may be framed. Effective at once, and no part of
 * the show.
 */
export function AccessPanel({ page }: { page: Page }): ReactNode {
  const showId = useShowId();
  const { isBusy, failure, run } = useClientPageAction();
  const [asks, setAsks] = useState<"address" | "remove" | null>(null);
  const { shown, expiresAt, embedOrigins } = page;
  const change = (next: Partial<ChangeClientPage>): Promise<boolean> =>
    run(() => api.changeClientPage(showId, { shown, expiresAt, embedOrigins, ...next }));
  return (
    <Panel title="Who may see it">
      <div className="flex flex-col gap-3">
        <SlowTick label="Shown" checked={shown} onChange={(next) => change({ shown: next })} />
        <PinField
          page={page}
          onSet={(pin) => change({ pin })}
          onEndWaiting={() => run(() => api.endPinWaiting(showId))}
        />
        <Field
          label="Open until"
          type="datetime-local"
          value={expiresAt === null ? "" : localText(expiresAt)}
          onChange={({ target }) =>
            void change({ expiresAt: target.value === "" ? null : new Date(target.value).toISOString() })
          }
          hint="Empty: no end date."
        />
        <EmbedFields page={page} onSet={(origins) => change({ embedOrigins: origins })} />
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => setAsks("address")}>New address …</Button>
          <Button kind="quiet" onClick={() => setAsks("remove")}>
            Delete the page …
          </Button>
        </div>
        {failure && <Notice kind="error">{failure}</Notice>}
      </div>
      <AccessQuestion asks={asks} onAsks={setAsks} isBusy={isBusy} onRun={run} />
    </Panel>
  );
}

interface AccessQuestionProps {
  asks: "address" | "remove" | null;
  onAsks: (value: "address" | "remove" | null) => void;
  isBusy: boolean;
  onRun: (action: () => Promise<StudioClientPage>) => Promise<boolean>;
}

/** What will happen, asked before it does. */
function AccessQuestion({ asks, onAsks, isBusy, onRun }: AccessQuestionProps): ReactNode {
  const showId = useShowId();
  return (
    <DialogBox
      open={asks !== null}
      onClose={() => onAsks(null)}
      title={asks === "address" ? "New address?" : "Delete the page?"}
      actions={
        <>
          <Button onClick={() => onAsks(null)}>Cancel</Button>
          <Button
            kind="primary"
            disabled={isBusy}
            onClick={() =>
              void onRun(() => (asks === "address" ? api.newClientAddress(showId) : api.removeClientPage(showId))).then(
                () => onAsks(null),
              )
            }
          >
            {asks === "address" ? "Give it another address" : "Take it down"}
          </Button>
        </>
      }
    >
      <p className="text-[14px] text-soft">
        {asks === "address"
          ? "The old address leads nowhere from then on, and whoever watches now is shut out. Versions and comments stay."
          : "The address leads nowhere from then on. Versions and everything that was said on the page are gone for good; what was paid stays on record."}
      </p>
    </DialogBox>
  );
}

interface PinFieldProps {
  page: Page;
  onSet: (pin: string | null) => Promise<boolean>;
  onEndWaiting: () => Promise<boolean>;
}

function PinField({ page, onSet, onEndWaiting }: PinFieldProps): ReactNode {
  const [pin, setPin] = useState("");
  const { hasPin, wrongTries, waitingVisitors, lockedUntil } = page;
  const isRight = pinSchema.safeParse(pin).success;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (isRight) void onSet(pin).then((done) => done && setPin(""));
      }}
    >
      <Field
        label={hasPin ? "PIN: one is set" : "PIN: none is asked for"}
        value={pin}
        inputMode="numeric"
        autoComplete="off"
        maxLength={12}
        placeholder={hasPin ? "another one" : "4 to 12 digits"}
        onChange={({ target }) => setPin(target.value.trim())}
        hint="After wrong tries a visitor waits, longer each time."
      />
      {wrongTries > 0 && (
        <p className="mt-1 text-xs text-warning" data-testid="wrong-pins">
          {counted(wrongTries, "wrong PIN")} {wordFor(wrongTries, "was", "were")} tried.
          {waitingVisitors > 0 &&
            ` ${counted(waitingVisitors, "visitor")} ${wordFor(waitingVisitors, "waits", "wait")}.`}
          {lockedUntil && ` New visitors wait until ${timeText(lockedUntil)}.`}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button type="submit" disabled={!isRight}>
          {hasPin ? "Change the PIN" : "Ask for this PIN"}
        </Button>
        {hasPin && (
          <Button kind="quiet" onClick={() => void onSet(null)}>
            Remove the PIN
          </Button>
        )}
        {(waitingVisitors > 0 || lockedUntil) && (
          <Button kind="quiet" onClick={() => void onEndWaiting()}>
            Allow new tries
          </Button>
        )}
      </div>
    </form>
  );
}

function EmbedFields({ page, onSet }: { page: Page; onSet: (origins: string[]) => Promise<boolean> }): ReactNode {
  const [text, setText] = useState("");
  const wanted = text.trim().replace(/\/+$/, "");
  const isRight = originSchema.safeParse(wanted).success;
  const { embedOrigins, embedCode } = page;
  return (
    <div>
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (isRight) void onSet([...new Set([...embedOrigins, wanted])]).then((done) => done && setText(""));
        }}
      >
        <Field
          className="min-w-0 flex-1"
          label="Websites that may embed it"
          value={text}
          spellCheck={false}
          placeholder="https://studio.example"
          onChange={({ target }) => setText(target.value)}
        />
        <Button type="submit" disabled={!isRight}>
          Add
        </Button>
      </form>
      {embedOrigins.length === 0 ? (
        <p className="mt-1 text-xs text-quiet">No website may embed it.</p>
      ) : (
        <EmbedList embedOrigins={embedOrigins} onSet={onSet} embedCode={embedCode} />
      )}
    </div>
  );
}

interface EmbedListProps {
  embedOrigins: readonly string[];
  onSet: (origins: string[]) => Promise<boolean>;
  embedCode: string;
}

/** The websites that may embed it, and the code for them. */
function EmbedList({ embedOrigins, onSet, embedCode }: EmbedListProps): ReactNode {
  return (
    <>
      <ul className="mt-1.5 flex flex-col gap-0.5 text-[13px]">
        {embedOrigins.map((origin) => (
          <li key={origin} className="flex items-center justify-between gap-2">
            <span className="min-w-0 truncate" title={origin}>
              {origin}
            </span>
            <Button
              kind="quiet"
              className="-my-1"
              aria-label={`${origin} may not`}
              onClick={() => void onSet(embedOrigins.filter((other) => other !== origin))}
            >
              Take out
            </Button>
          </li>
        ))}
      </ul>
      <label className="mt-2 block text-[13px] text-soft">
        Code for that page
        <textarea
          readOnly
          rows={3}
          value={embedCode}
          onFocus={({ currentTarget }) => currentTarget.select()}
          className="mt-1 w-full rounded-md border border-line-strong/60 bg-ground px-2 py-1 font-mono text-xs text-ink"
        />
      </label>
    </>
  );
}

/** As a field for local time wants it: "2031-06-28T18:00". */
function localText(instant: string): string {
  const date = new Date(instant);
  return new Date(date.getTime() - 60_000 * date.getTimezoneOffset()).toISOString().slice(0, 16);
}
