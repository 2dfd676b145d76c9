import type { RevisionSummary } from "@humming-tide/contract";
import { itemAt, lastOf } from "@humming-tide/core/presence";
import { type ReactNode, useCallback, useEffect, useState } from "react";
import { api } from "../../api.ts";
import { useShowId } from "../../store/open-show.ts";
import { saveNow } from "../../store/saving.ts";
import { showActions } from "../../store/show-slice.ts";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { Button } from "../../ui/Button.tsx";
import { DialogBox } from "../../ui/DialogBox.tsx";
import { longDayText, timeText } from "../../ui/date-text.ts";
import { Notice } from "../../ui/Notice.tsx";

/**
 * Every saved revision of the show and what it changed. Going back is an edit like any other: it
 * can be undone, and nothing is lost by it.
 */
export function HistoryDialog({ onClose }: { onClose: () => void }): ReactNode {
  const dispatch = useAppDispatch();
  const id = useShowId();
  const [revisions, setRevisions] = useState<readonly RevisionSummary[]>([]);
  const [more, setMore] = useState(true);
  const [failure, setFailure] = useState<string | null>(null);
  const load = useCallback(
    async (before: number | null): Promise<void> => {
      try {
        const page = await api.revisions(id, before);
        setRevisions((known) => (before === null ? page.revisions : [...known, ...page.revisions]));
        setMore(page.more);
      } catch (error) {
        setFailure((error as Error).message);
      }
    },
    [id],
  );
  useEffect(() => {
    void saveNow().then(() => load(null));
  }, [load]);
  const goBack = async (revision: RevisionSummary): Promise<void> => {
    try {
      const document = await api.documentAt(id, revision.revision);
      dispatch(showActions.edited(document));
      dispatch(viewActions.toastShown(`The show is as it was at ${timeOf(revision)}. Undo brings back what you had.`));
      onClose();
    } catch (error) {
      setFailure((error as Error).message);
    }
  };
  return (
    <DialogBox open onClose={onClose} title="History of the show" width={600}>
      {failure && <Notice kind="error">{failure}</Notice>}
      <ol>
        {revisions.map((revision, index) => (
          <li key={revision.revision} data-testid="revision">
            {dayOf(revision) !== (index > 0 ? dayOf(itemAt(revisions, index - 1)) : "") && (
              <h3 className="mt-3 mb-1 font-sans text-[13px] text-quiet first:mt-0">{dayOf(revision)}</h3>
            )}
            <RevisionLine revision={revision} onGoBack={goBack} />
          </li>
        ))}
      </ol>
      {more && revisions.length > 0 && (
        <Button className="mt-3" onClick={() => void load(lastOf(revisions).revision)}>
          Earlier
        </Button>
      )}
    </DialogBox>
  );
}

interface RevisionLineProps {
  revision: RevisionSummary;
  onGoBack: (revision: RevisionSummary) => Promise<void>;
}

/** One revision: when it was saved, what it changed, and the way back to it. */
function RevisionLine({ revision, onGoBack }: RevisionLineProps): ReactNode {
  const current = useAppSelector((state) => state.show.revision);
  return (
    <div className="flex items-baseline gap-3 border-t border-line py-1.5 text-[13px]">
      <time className="w-[64px] shrink-0 text-quiet" dateTime={revision.savedAt}>
        {timeOf(revision)}
      </time>
      <span className="min-w-0 flex-1 break-words">
        {revision.changes.length > 0
          ? sentence(revision.changes)
          : revision.revision === 1
            ? "The show was begun"
            : "Saved without a change"}
      </span>
      {revision.revision === current ? (
        <span className="shrink-0 text-quiet">now</span>
      ) : (
        <Button kind="quiet" className="-my-1 shrink-0" onClick={() => void onGoBack(revision)}>
          Go back to this
        </Button>
      )}
    </div>
  );
}

const dayOf = ({ savedAt }: RevisionSummary): string => longDayText(savedAt);
const timeOf = ({ savedAt }: RevisionSummary): string => timeText(savedAt);
const sentence = (phrases: readonly string[]): string => {
  const text = phrases.join(", ");
  return text.charAt(0).toUpperCase() + text.slice(1);
};
