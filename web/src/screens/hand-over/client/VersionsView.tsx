import type { StudioClientPage, StudioComment, StudioVersion } from "@humming-tide/contract";
import { type ReactNode, useState } from "react";
import { api } from "../../../api.ts";
import { answersTo, revisionAt } from "../../../comments/answers.ts";
import { useClientPageAction } from "../../../comments/use-client-page-action.ts";
import { useOpenShow, useShowId } from "../../../store/open-show.ts";
import { saveNow } from "../../../store/saving.ts";
import { useAppSelector } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { instantText } from "../../../ui/date-text.ts";
import { Field } from "../../../ui/Field.tsx";
import { Notice } from "../../../ui/Notice.tsx";
import { ProgressBar } from "../../../ui/ProgressBar.tsx";
import { changesNote } from "./changes-note.ts";

/** What the client sees, and giving them the show as it is now. */
export function VersionsView({ client: { versions, comments } }: { client: StudioClientPage }): ReactNode {
  const showId = useShowId();
  const isSaved = useAppSelector((state) => state.show.saveState.kind === "saved");
  const [note, setNote] = useState("");
  const { isBusy, failure, run } = useClientPageAction();
  const [newest] = versions;
  const isUpToDate = newest !== undefined && newest.isNewest && newest.state !== "failed" && isSaved;
  const publish = async (): Promise<void> => {
    const isDone = await run(async () => {
      await saveNow();
      return api.publishVersion(showId, note.trim());
    });
    if (isDone) setNote("");
  };
  return (
    <section aria-label="Versions" className="mt-6">
      <h2 className="mb-2 text-lg">What the client sees</h2>
      {isUpToDate ? (
        <p className="mb-3 text-[13px] text-soft">
          The newest version is the show as it is now. After your next edit it can be published again.
        </p>
      ) : (
        <form
          className="mb-3 flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            void publish();
          }}
        >
          <Field
            className="min-w-0 flex-1"
            label={newest ? "What is new in it, for the client" : "A word to go with it"}
            value={note}
            maxLength={500}
            placeholder={newest ? "The kiss is longer, and the boat is gone" : "First cut"}
            onChange={({ target }) => setNote(target.value)}
          />
          <Button type="submit" kind="primary" className="mb-px" disabled={isBusy}>
            Publish version {(newest?.number ?? 0) + 1}
          </Button>
        </form>
      )}
      {!isUpToDate && newest && <FillIn version={newest} comments={comments} onNote={setNote} />}
      {failure && <Notice kind="error">{failure}</Notice>}
      <ul className="flex flex-col gap-2">
        {versions.map((version) => (
          <li key={version.number}>
            <VersionCard version={version} isSeen={version === versions.find(({ state }) => state === "live")} />
          </li>
        ))}
      </ul>
    </section>
  );
}

interface FillInProps {
  /** The last one that was published. */
  version: StudioVersion;
  comments: readonly StudioComment[];
  onNote: (note: string) => void;
}

/** Writes into the note what was done since the last version. */
function FillIn({ version, comments, onNote }: FillInProps): ReactNode {
  const showId = useShowId();
  const show = useOpenShow();
  const [said, setSaid] = useState<string | null>(null);
  const fill = async (): Promise<void> => {
    try {
      const revision = await revisionAt(version.createdAt, (before) => api.revisions(showId, before));
      const before = revision === null ? show : await api.documentAt(showId, revision);
      const answers = await answersTo(showId, comments, [version]);
      const note = changesNote(before, show, comments, version.number, answers);
      setSaid(note ? null : "Nothing was changed since then.");
      if (note) onNote(note);
    } catch (error) {
      setSaid((error as Error).message);
    }
  };
  return (
    <p className="-mt-1 mb-3 flex items-center gap-3 text-[13px] text-quiet">
      <Button kind="quiet" className="-ml-3" onClick={() => void fill()}>
        Fill in what changed since version {version.number}
      </Button>
      <span aria-live="polite">{said}</span>
    </p>
  );
}

function VersionCard({ version, isSeen }: { version: StudioVersion; isSeen: boolean }): ReactNode {
  const { number, note, createdAt, state, progress, error } = version;
  return (
    <article
      className="rounded-lg border border-line bg-raised px-4 py-2.5 text-[13px]"
      data-testid="version"
      data-state={state}
    >
      <div className="flex items-baseline justify-between gap-4">
        <p className="min-w-0 truncate">
          <span className="font-heading text-[15px]">Version {number}</span>
          {note && <span className="ml-3 text-soft">{note}</span>}
        </p>
        <span className="shrink-0 text-quiet">
          {isSeen
            ? "the client sees it"
            : state === "live"
              ? "replaced"
              : state === "preparing"
                ? "being made"
                : "failed"}
          , {instantText(createdAt)}
        </span>
      </div>
      {state === "preparing" && (
        <div className="mt-2">
          <ProgressBar label={`Films of version ${number}`} share={progress} />
          <p className="mt-1 text-soft">
            {Math.floor(100 * progress)} % of its film. Until it is there the client sees what was there before.
          </p>
        </div>
      )}
      {error && (
        <div className="mt-2">
          <Notice kind="error">{error}</Notice>
        </div>
      )}
    </article>
  );
}
