import type { StudioComment } from "@humming-tide/contract";
import type { ReactNode } from "react";
import { useNavigate } from "react-router";
import { CommentThread } from "../../../comments/CommentThread.tsx";
import { useOpenShow } from "../../../store/open-show.ts";
import { selectionActions } from "../../../store/selection-slice.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { Button } from "../../../ui/Button.tsx";
import { SlideImage } from "../../../ui/SlideImage.tsx";

/** Everything that was said, what is open first, each with its slide. */
export function ClientComments({ comments }: { comments: readonly StudioComment[] }): ReactNode {
  const slides = useOpenShow((show) => show.slides);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const threads = comments
    .filter(({ threadId }) => threadId === null)
    .sort((a, b) => Number(a.done) - Number(b.done) || b.version - a.version || a.seconds - b.seconds);
  const show = ({ slideId, round }: StudioComment): void => {
    dispatch(selectionActions.picked({ slideId, round }));
    void navigate("../score");
  };
  return (
    <section aria-label="Comments" className="mt-7">
      <h2 className="mb-2 text-lg">Comments</h2>
      {threads.length === 0 && (
        <p className="text-[14px] text-soft">
          Nothing yet. What the client says stands here and at its slide on the Score.
        </p>
      )}
      <ul className="flex flex-col gap-2">
        {threads.map((thread) => {
          const slide = slides.find(({ id }) => id === thread.slideId);
          return (
            <li
              key={thread.id}
              className={`flex gap-3.5 rounded-lg border border-line bg-raised px-4 py-3 ${thread.done ? "opacity-70" : ""}`}
            >
              {slide ? (
                <SlideImage slide={slide} className="h-14 w-[84px] shrink-0 rounded object-cover" />
              ) : (
                <span className="flex h-14 w-[84px] shrink-0 items-center justify-center rounded border border-line text-center text-xs text-quiet">
                  not in the show any more
                </span>
              )}
              <div className="min-w-0 flex-1">
                <CommentThread thread={thread} comments={comments} />
              </div>
              {slide && slide.rating !== "out" && (
                <Button kind="quiet" className="self-start" onClick={() => show(thread)}>
                  Show it on the Score
                </Button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
