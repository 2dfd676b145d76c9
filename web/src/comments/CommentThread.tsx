import type { StudioClientPage, StudioComment } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useEffect, useState } from "react";
import { api } from "../api.ts";
import { useShowId } from "../store/open-show.ts";
import { savedRevision } from "../store/saving.ts";
import { useAppSelector } from "../store/store.ts";
import { Button } from "../ui/Button.tsx";
import { Notice } from "../ui/Notice.tsx";
import { SlowTick } from "../ui/SlowTick.tsx";
import { answersTo } from "./answers.ts";
import { useClientPageAction } from "./use-client-page-action.ts";

/** What is done is done by the show as it is now, so that is saved first. */
async function mark(showId: string, commentId: string, done: boolean): Promise<StudioClientPage> {
  return api.markComment(showId, commentId, { done, revision: await savedRevision() });
}

/** What was changed for a comment that is done. */
function Answer({ thread }: { thread: StudioComment }): ReactNode {
  const showId = useShowId();
  const versions = useAppSelector((state) => state.client.page?.versions);
  const [answer, setAnswer] = useState<string | null>(null);
  const isDone = thread.doneRevision !== null;
  useEffect(() => {
    let isOpen = true;
    setAnswer(null);
    if (!versions || !isDone) return;
    answersTo(showId, [thread], versions).then(
      (answers) => isOpen && setAnswer(answers.get(thread.id) ?? null),
      // The history cannot be read now: the thread says all that it knows.
      () => undefined,
    );
    return () => {
      isOpen = false;
    };
  }, [showId, thread, versions, isDone]);
  if (answer === null || !isDone) return null;
  return (
    <p className="mt-1 text-xs text-soft" data-testid="answer">
      {answer === "" ? "Nothing was changed since then." : `Changed for it: ${answer}.`}
    </p>
  );
}

/** What a client said about a place of the film, what was answered, and whether it is done. */
export function CommentThread({
  thread,
  comments,
}: {
  thread: StudioComment;
  comments: readonly StudioComment[];
}): ReactNode {
  const showId = useShowId();
  const [text, setText] = useState("");
  const { isBusy, failure, run } = useClientPageAction();
  const answers = comments.filter(({ threadId }) => threadId === thread.id);
  const send = async (): Promise<void> => {
    if (await run(() => api.answerComment(showId, thread.id, text.trim()))) setText("");
  };
  return (
    <article className="text-[13px]" data-testid="thread">
      {[thread, ...answers].map((comment) => (
        <div key={comment.id} className={comment.threadId === null ? "" : "mt-1.5 border-l-2 border-line pl-2.5"}>
          <p className="text-xs text-quiet">
            {comment.name}
            {comment.threadId === null ? `, at ${clockText(comment.seconds)} of version ${comment.version}` : ""}
          </p>
          <p className="break-words whitespace-pre-wrap text-ink">{comment.text}</p>
        </div>
      ))}
      <form
        className="mt-1.5 flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <input
          aria-label={`Answer ${thread.name}`}
          placeholder="Answer"
          value={text}
          maxLength={2000}
          onChange={({ target }) => setText(target.value)}
          className="min-w-0 flex-1 rounded-md border border-line-strong/60 bg-ground px-2 py-1 text-ink"
        />
        <Button type="submit" disabled={isBusy || text.trim() === ""}>
          Send
        </Button>
      </form>
      <div className="mt-1.5">
        <SlowTick label="Done" checked={thread.done} onChange={(done) => run(() => mark(showId, thread.id, done))} />
        <Answer thread={thread} />
      </div>
      {failure && <Notice kind="error">{failure}</Notice>}
    </article>
  );
}
