import type { ClientComment, ClientFilm } from "@humming-tide/contract";
import { clockText } from "@humming-tide/core/time";
import { Check } from "lucide-react";
import { type ReactNode, useState } from "react";
import { CommentForm } from "./CommentForm.tsx";

interface CommentsViewProps {
  film: ClientFilm;
  /** The one that is seen. */
  version: number;
  session: string;
  /** Where the film is. */
  seconds: number;
  onJump: (seconds: number) => void;
  onChanged: () => Promise<void>;
}

/** What every form for a comment needs. */
type Common = Pick<CommentsViewProps, "film" | "version" | "session" | "onChanged">;

/** What was said about the film, in the order of the film, what is open before what is done. */
export function CommentsView({ film, version, session, seconds, onJump, onChanged }: CommentsViewProps): ReactNode {
  const [answered, setAnswered] = useState<string | null>(null);
  const threads = film.comments
    .filter(({ threadId }) => threadId === null)
    .sort((a, b) => Number(a.done) - Number(b.done) || b.version - a.version || a.seconds - b.seconds);
  const common = { film, version, session, onChanged };
  return (
    <aside
      aria-label="Comments"
      className="flex min-h-0 w-full shrink-0 flex-col border-line bg-raised lg:w-[360px] lg:border-l"
    >
      <h2 className="px-5 pt-4 pb-2 text-[17px]">Comments</h2>
      <ol className="min-h-0 flex-1 overflow-y-auto px-5">
        {threads.length === 0 && (
          <li className="py-2 text-[14px] text-soft">
            {film.takesComments
              ? "No comments yet. Stop the film where you want a change, and write it below."
              : "No comments are taken at the moment."}
          </li>
        )}
        {threads.map((thread) => {
          const answers = film.comments.filter(({ threadId }) => threadId === thread.id);
          return (
            <Thread
              key={thread.id}
              thread={thread}
              answers={answers}
              common={common}
              onJump={onJump}
              isAnswering={answered === thread.id}
              onAnswering={(isAnswering) => setAnswered(isAnswering ? thread.id : null)}
            />
          );
        })}
      </ol>
      {film.takesComments && <NewComment common={common} seconds={seconds} />}
    </aside>
  );
}

interface ThreadProps {
  thread: ClientComment;
  answers: readonly ClientComment[];
  common: Common;
  onJump: (seconds: number) => void;
  /** The form for an answer is open here. */
  isAnswering: boolean;
  onAnswering: (isAnswering: boolean) => void;
}

/** One comment with its answers, and the way to answer it. */
function Thread({ thread, answers, common, onJump, isAnswering, onAnswering }: ThreadProps): ReactNode {
  return (
    <li className="border-t border-line py-3 first:border-t-0" data-testid="comment" data-done={thread.done}>
      <CommentPlace onJump={onJump} thread={thread} version={common.version} />
      {thread.done && (
        <span className="ml-2 inline-flex items-center gap-1 text-[13px] text-soft">
          <Check size={14} aria-hidden /> done
        </span>
      )}
      <CommentText comment={thread} />
      {answers.map((answer) => (
        <div key={answer.id} className="mt-2 border-l-2 border-line pl-3">
          <CommentText comment={answer} />
        </div>
      ))}
      {common.film.takesComments &&
        (isAnswering ? (
          <CommentForm {...common} threadId={thread.id} seconds={thread.seconds} onDone={() => onAnswering(false)} />
        ) : (
          <button
            type="button"
            onClick={() => onAnswering(true)}
            className="mt-1.5 text-[13px] text-soft underline underline-offset-2"
          >
            Answer
          </button>
        ))}
    </li>
  );
}

interface NewCommentProps {
  common: Common;
  seconds: number;
}

/** A new comment at the film's place. */
function NewComment({ common, seconds }: NewCommentProps): ReactNode {
  return (
    <div className="border-t border-line px-5 py-4">
      <CommentForm {...common} threadId={null} seconds={seconds} onDone={null} />
    </div>
  );
}

interface CommentPlaceProps {
  onJump: (seconds: number) => void;
  thread: ClientComment;
  version: number;
}

/** Where in the film it was said; a press goes there. */
function CommentPlace({ onJump, thread, version }: CommentPlaceProps): ReactNode {
  return (
    <button
      type="button"
      onClick={() => onJump(thread.seconds)}
      className="mb-1 inline-flex items-center gap-1.5 rounded bg-high px-2 py-0.5 text-[13px] tabular-nums"
      title="Show this place of the film"
    >
      {clockText(thread.seconds)}
      {thread.version === version ? "" : `, version ${thread.version}`}
    </button>
  );
}

const CommentText = ({ comment: { name, text, createdAt } }: { comment: ClientComment }): ReactNode => (
  <div className="text-[14px]">
    <p className="text-[13px] text-quiet">
      {name},{" "}
      <time dateTime={createdAt}>
        {new Date(createdAt).toLocaleString([], { dateStyle: "medium", timeStyle: "short" })}
      </time>
    </p>
    <p className="break-words whitespace-pre-wrap">{text}</p>
  </div>
);
