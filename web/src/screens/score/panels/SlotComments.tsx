import { present } from "@humming-tide/core/presence";
import type { ReactNode } from "react";
import { CommentThread } from "../../../comments/CommentThread.tsx";
import { openThreads } from "../../../store/client-slice.ts";
import { useAppSelector } from "../../../store/store.ts";

/** What the client has said about a slide and is not done yet. */
export function SlotComments({ slideId }: { slideId: string }): ReactNode {
  const comments = useAppSelector((state) => state.client.page?.comments);
  const threads = openThreads(comments).filter((comment) => comment.slideId === slideId);
  if (threads.length === 0) return null;
  return (
    <ul aria-label="Comments of the client" className="mt-2 flex flex-col gap-3 border-t border-line pt-2">
      {threads.map((thread) => (
        <li key={thread.id}>
          <CommentThread thread={thread} comments={present(comments)} />
        </li>
      ))}
    </ul>
  );
}
