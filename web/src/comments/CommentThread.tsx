import type { StudioComment } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { type ReactNode, useState } from "react";
import { api } from "../api.ts";
import { useShowId } from "../store/open-show.ts";
import { Button } from "../ui/Button.tsx";
import { Notice } from "../ui/Notice.tsx";
import { SlowTick } from "../ui/SlowTick.tsx";
import { useClientPageAction } from "./use-client-page-action.ts";

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
        <SlowTick
          label="Done"
          checked={thread.done}
          onChange={(done) => run(() => api.markComment(showId, thread.id, done))}
        />
      </div>
      {failure && <Notice kind="error">{failure}</Notice>}
    </article>
  );
}
