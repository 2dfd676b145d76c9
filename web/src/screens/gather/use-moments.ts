import { useEffect, useRef } from "react";
import { useOpenShow } from "../../store/open-show.ts";
import { store, useAppDispatch, useAppSelector } from "../../store/store.ts";
import { gatherActions } from "./gather-slice.ts";
import { seenFacts, slideSeconds } from "./slide-facts.ts";

/** Pictures come in by the hundred: likeness is looked for when it has been quiet for this long. */
const QUIET_MS = 600;

/** Keeps the groups of nearly equal pictures up to date, compared off the page's thread. */
export function useMoments(): void {
  const dispatch = useAppDispatch();
  const show = useOpenShow();
  const media = useAppSelector((state) => state.show.media);
  const worker = useRef<Worker | null>(null);
  // Ratings and captions change nothing about likeness; files and clocks do.
  const key = `${show.slides
    .map(({ sha256 }) => sha256?.slice(0, 12) ?? "")
    .sort()
    .join()} ${JSON.stringify(show.clockOffsets)}`;

  useEffect(() => {
    const own = new Worker(new URL("./likeness-worker.ts", import.meta.url), { type: "module" });
    own.onmessage = ({ data }: MessageEvent<string[][]>) => void dispatch(gatherActions.momentsFound(data));
    worker.current = own;
    return () => own.terminate();
  }, [dispatch]);

  useEffect(() => {
    const timer = setTimeout(() => {
      const { document, media: known } = store.getState().show;
      if (!document) return;
      worker.current?.postMessage(
        document.slides.map((slide) => ({
          id: slide.id,
          fingerprint: seenFacts(known, slide)?.fingerprint ?? null,
          seconds: slideSeconds(known, document, slide),
        })),
      );
    }, QUIET_MS);
    return () => clearTimeout(timer);
  }, [key, media]);
}
