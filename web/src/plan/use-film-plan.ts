import type { Size } from "@humming-tide/core/picture";
import { useEffect, useRef } from "react";
import { api } from "../api.ts";
import { songActions } from "../store/song-slice.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";
import type { PlanAnswer, PlanRequest } from "./plan-worker.ts";

/** Keeps the film plan in step with the document (or with what a drag would make of it), computed off the page's thread. */
export function useFilmPlan(): void {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => state.show.draft ?? state.show.document);
  const media = useAppSelector((state) => state.show.media);
  const analysis = useAppSelector((state) => state.song.analysis);
  const songReady = useAppSelector((state) => state.song.sha256 === (state.show.document?.song?.sha256 ?? null));
  const worker = useRef<PlanQueue | null>(null);

  useEffect(() => {
    const queue = new PlanQueue((answer) => {
      if (answer.kind === "planned") dispatch(viewActions.planned(answer.plan));
      else dispatch(viewActions.planFailed(answer));
    });
    worker.current = queue;
    return () => queue.close();
  }, [dispatch]);

  useEffect(() => {
    if (!document || !songReady) return;
    const pictureSizes: Record<string, Size> = {};
    for (const facts of Object.values(media)) {
      if (facts.kind !== "song") pictureSizes[facts.sha256] = { width: facts.width, height: facts.height };
    }
    worker.current?.ask({ document, song: analysis, pictureSizes });
  }, [document, media, analysis, songReady]);
}

/** One question at a time: while the worker thinks, only the newest waits, so a drag never runs behind the pointer. */
class PlanQueue {
  readonly #worker = new Worker(new URL("./plan-worker.ts", import.meta.url), { type: "module" });
  #busy = false;
  #waiting: PlanRequest | null = null;

  constructor(onAnswer: (answer: PlanAnswer) => void) {
    this.#worker.onmessage = ({ data }: MessageEvent<PlanAnswer>) => {
      this.#busy = false;
      const next = this.#waiting;
      this.#waiting = null;
      onAnswer(data);
      if (next) this.ask(next);
    };
  }

  ask(request: PlanRequest): void {
    if (this.#busy) {
      this.#waiting = request;
      return;
    }
    this.#busy = true;
    this.#worker.postMessage(request);
  }

  close(): void {
    this.#worker.terminate();
  }
}

/** Fetches what was heard in the show's song whenever the song changes. */
export function useSongFacts(): void {
  const dispatch = useAppDispatch();
  const sha256 = useAppSelector((state) => state.show.document?.song?.sha256 ?? null);
  useEffect(() => {
    dispatch(songActions.songCleared());
    if (!sha256) return;
    let current = true;
    Promise.all([api.analysis(sha256), api.peaks(sha256)]).then(
      ([analysis, peaks]) => current && dispatch(songActions.songHeard({ sha256, analysis, peaks })),
      (error: Error) => current && dispatch(songActions.songFailed({ sha256, failure: error.message })),
    );
    return () => {
      current = false;
    };
  }, [dispatch, sha256]);
}
