import type { Rescue, ShowSummary } from "@humming-tide/contract";
import { type ReactNode, useState } from "react";
import { api, packageUrl, rawShowUrl } from "../../api.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { instantText } from "../../ui/date-text.ts";
import { Notice } from "../../ui/Notice.tsx";
import type { ShowCardProps } from "./show-card-props.ts";

/**
 * A show whose saved text cannot be read: what it is, and what can be saved of it. All other shows
 * work.
 */
export function UnreadableCard({ show, onPut, onChanged }: ShowCardProps): ReactNode {
  const [isOpen, setIsOpen] = useState(false);
  const [rescue, setRescue] = useState<Rescue | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const fail = (error: Error): void => setFailure(error.message);
  const open = (): void => {
    setIsOpen(true);
    setFailure(null);
    api.rescue(show.id).then(setRescue, fail);
  };
  const last = rescue?.lastReadable ?? null;
  const restore = (): void => {
    api.restoreShow(show.id).then(() => {
      setIsOpen(false);
      onChanged();
    }, fail);
  };
  return (
    <article className="flex h-full flex-col rounded-lg border border-error/60 bg-raised p-4" data-testid="unreadable">
      <h2 className="truncate text-[17px]">{show.title || "A show without a readable name"}</h2>
      <p className="mt-1 text-[13px] text-error">
        {show.state === "newer" ? "Made by a newer version of the program." : "Its saved text is damaged."}
      </p>
      <p className="mt-2 line-clamp-5 text-xs text-soft">{show.problem}</p>
      <div className="mt-auto flex gap-2 pt-3">
        {show.place === "deleted" ? (
          <Button onClick={() => onPut(show, "shelf")}>Bring back</Button>
        ) : (
          <>
            <Button onClick={open}>Options …</Button>
            <Button kind="quiet" onClick={() => onPut(show, "deleted")}>
              Delete
            </Button>
          </>
        )}
      </div>
      <RescueDialog
        isOpen={isOpen}
        onOpen={setIsOpen}
        show={show}
        last={last}
        onRestore={restore}
        rescue={rescue}
        failure={failure}
      />
    </article>
  );
}

interface RescueDialogProps {
  isOpen: boolean;
  onOpen: (value: boolean) => void;
  show: ShowSummary;
  last: Rescue["lastReadable"];
  onRestore: () => void;
  rescue: Rescue | null;
  failure: string | null;
}

/** What can be saved of it. */
function RescueDialog({ isOpen, onOpen, show, last, onRestore, rescue, failure }: RescueDialogProps): ReactNode {
  return (
    <DialogBox
      open={isOpen}
      onClose={() => onOpen(false)}
      title={show.title || "This show"}
      actions={
        <>
          <Button onClick={() => onOpen(false)}>Close</Button>
          {last && (
            <Button kind="primary" onClick={onRestore}>
              Go back to revision {last.revision}
            </Button>
          )}
        </>
      }
    >
      <p className="text-[14px] text-soft">{show.problem}</p>
      {rescue && (
        <p className="mt-3 text-[14px]">
          {last
            ? `Revision ${last.revision}, saved ${instantText(last.savedAt)}, can be read. ` +
              "Going back to it makes a new revision; the history stays."
            : "No revision of it can be read."}
        </p>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        {last && (
          <Button onClick={() => window.location.assign(packageUrl(show.id))}>
            Save revision {last.revision} as a package
          </Button>
        )}
        <Button onClick={() => window.location.assign(rawShowUrl(show.id))}>Download the raw text</Button>
      </div>
      {failure && (
        <div className="mt-3">
          <Notice kind="error">{failure}</Notice>
        </div>
      )}
    </DialogBox>
  );
}
