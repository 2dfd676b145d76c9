import { isSeen } from "@humming-tide/contract";
import type { ArrangedMusic } from "@humming-tide/core/arrange";
import { type FilmPlan, type SeenMedia, speechName } from "@humming-tide/core/film";
import type { MusicAnalysis } from "@humming-tide/core/music";
import { present } from "@humming-tide/core/presence";
import { heardSounds, openLocks, type ShowDocument } from "@humming-tide/core/show";
import { parseSoundName, soundName } from "@humming-tide/core/sound";
import { useEffect, useMemo, useRef, useState } from "react";
import { api } from "../api.ts";
import { checkActions } from "../store/check-slice.ts";
import { shownDocument } from "../store/show-slice.ts";
import { songActions } from "../store/song-slice.ts";
import { soundActions } from "../store/sound-slice.ts";
import { store, useAppDispatch, useAppSelector } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";
import { MoveTeller } from "./move-teller.ts";
import type { PlanAnswer, PlanFacts, PlanRequest } from "./plan-worker.ts";

/**
 * Keeps the film plan in step with the document (or with what a drag would make of it), computed
 * off the page's thread.
 */
export function useFilmPlan(): void {
  const dispatch = useAppDispatch();
  const document = useAppSelector((state) => shownDocument(state.show));
  const media = useAppSelector((state) => state.show.media);
  const heard = useAppSelector((state) => state.song.heard);
  const speech = useAppSelector((state) => state.sound.speech);
  const isHeard = document?.songs.every((song) => heard[song.sha256]) ?? false;
  const worker = useRef<PlanQueue | null>(null);

  useEffect(() => {
    const told = new MoveTeller();
    const queue = new PlanQueue((answer, asked) => {
      if (answer.kind === "planned")
        dispatch(viewActions.planned({ plan: answer.plan, moved: told.movedBy(answer.plan, asked, isSettled(asked)) }));
      else if (answer.kind === "waysOut") dispatch(viewActions.waysOutFound(answer.waysOut));
      else if (answer.kind === "checked") dispatch(checkActions.found(answer.findings));
      else dispatch(viewActions.planFailed(answer));
    });
    worker.current = queue;
    return () => {
      queue.close();
      dispatch(checkActions.cleared());
    };
  }, [dispatch]);

  const facts = usePlanFacts();
  useEffect(() => worker.current?.know(facts), [facts]);

  // What became known of songs, pictures or voices makes another film of the same document.
  // biome-ignore lint/correctness/useExhaustiveDependencies: as said
  useEffect(() => {
    if (document && isHeard) worker.current?.ask(document);
  }, [document, media, heard, speech, isHeard]);
}

/** What is known of the open show's songs, pictures and voices. */
function usePlanFacts(): PlanFacts {
  const media = useAppSelector((state) => state.show.media);
  const heard = useAppSelector((state) => state.song.heard);
  const speech = useAppSelector((state) => state.sound.speech);
  return useMemo(() => {
    const analyses: Record<string, MusicAnalysis> = {};
    for (const [sha256, { analysis }] of Object.entries(heard)) if (analysis) analyses[sha256] = analysis;
    const seen: Record<string, SeenMedia> = {};
    for (const found of Object.values(media)) if (isSeen(found)) seen[found.sha256] = found;
    return { kind: "facts", analyses, seen, speech };
  }, [media, heard, speech]);
}

/** The film of any document of the open show, beside the one on stage; null until it is laid. */
export function usePlanOf(document: ShowDocument | null): FilmPlan | null {
  const [plan, setPlan] = useState<FilmPlan | null>(null);
  const queue = useRef<PlanQueue | null>(null);
  const facts = usePlanFacts();
  const heard = useAppSelector((state) => state.song.heard);
  const isHeard = document?.songs.every((song) => heard[song.sha256]) ?? false;
  useEffect(() => {
    const made = new PlanQueue((answer) => answer.kind === "planned" && setPlan(answer.plan));
    queue.current = made;
    return () => made.close();
  }, []);
  useEffect(() => {
    queue.current?.know(facts);
    if (document && isHeard) queue.current?.ask(document);
  }, [document, facts, isHeard]);
  return plan;
}

/** Whether the store shows this document, and no drag goes on. */
const isSettled = (document: ShowDocument): boolean => store.getState().show.document === document;

type QueueAnswer =
  | { readonly kind: "planned"; readonly plan: FilmPlan }
  | Exclude<PlanAnswer, { readonly kind: "planned" }>;

/**
 * One question at a time: while the worker thinks, only the newest waits, so a drag never runs
 * behind the pointer.
 */
class PlanQueue {
  readonly #worker = new Worker(new URL("./plan-worker.ts", import.meta.url), { type: "module" });
  #busy = false;
  /** What the worker's newest answer is about. */
  #asked: ShowDocument | null = null;
  #waiting: ShowDocument | null = null;
  /** The same object as long as it is the same music: rows that show it need not be drawn again. */
  #music: ArrangedMusic | null = null;

  constructor(onAnswer: (answer: QueueAnswer, asked: ShowDocument) => void) {
    this.#worker.onmessage = ({ data }: MessageEvent<PlanAnswer>) => {
      const asked = present(this.#asked);
      if (data.kind === "waysOut" || data.kind === "checked") {
        if (!this.#busy) onAnswer(data, asked);
        return;
      }
      this.#busy = false;
      const next = this.#waiting;
      this.#waiting = null;
      if (data.kind === "planned") {
        this.#music = data.music ?? this.#music;
        // Frozen, it is taken into the store as it is; else each of its thousands of parts would be
        // looked through.
        const plan = Object.freeze({ ...data.plan, music: present(this.#music) });
        onAnswer({ kind: "planned", plan }, asked);
      } else onAnswer(data, asked);
      if (next) this.ask(next);
    };
  }

  know(facts: PlanFacts): void {
    this.#worker.postMessage(facts);
  }

  ask(document: ShowDocument): void {
    if (this.#busy) {
      this.#waiting = document;
      return;
    }
    this.#busy = true;
    this.#asked = document;
    this.#worker.postMessage({ kind: "plan", document } satisfies PlanRequest);
  }

  close(): void {
    this.#worker.terminate();
  }
}

/**
 * Fetches what was heard in the show's songs, each once, and in those from before whose locks wait
 * for a place.
 */
export function useSongFacts(): void {
  const dispatch = useAppDispatch();
  const wanted = useAppSelector(({ show: { document, compared } }) =>
    [document, compared?.document].flatMap((known) => (known ? songsToHear(known) : [])).join(),
  );
  useEffect(() => {
    for (const sha256 of new Set(wanted.split(",").filter(Boolean))) {
      if (asked.has(sha256)) continue;
      asked.add(sha256);
      Promise.all([api.analysis(sha256), api.peaks(sha256)]).then(
        ([analysis, peaks]) => {
          dispatch(songActions.songHeard({ sha256, heard: { analysis, peaks, failure: null } }));
        },
        (error: Error) => {
          asked.delete(sha256);
          dispatch(songActions.songHeard({ sha256, heard: { analysis: null, peaks: null, failure: error.message } }));
        },
      );
    }
  }, [dispatch, wanted]);
  useEffect(
    () => () => {
      asked.clear();
      dispatch(songActions.songsCleared());
    },
    [dispatch],
  );
}

function songsToHear(show: ShowDocument): string[] {
  const waiting = new Set(openLocks(show).map(({ place }) => place.songId));
  const former = show.formerSongs.filter(({ id }) => waiting.has(id));
  return [...show.songs, ...former].map(({ sha256 }) => sha256);
}

/** Songs of the open show that were asked for and did not fail. */
const asked = new Set<string>();

/**
 * Fetches where someone speaks in what is heard in the show's film, and how loud it is, each once;
 * and what voices and clips look like.
 */
export function useSpeechFacts(): void {
  const dispatch = useAppDispatch();
  const wanted = useAppSelector(({ show: { document } }) =>
    document
      ? heardSounds(document)
          .map((sha256) => speechName(document, sha256))
          .join()
      : "",
  );
  const songs = useAppSelector((state) => state.show.document?.songs.map(({ sha256 }) => sha256).join() ?? "");
  useEffect(() => {
    for (const name of wanted.split(",").filter(Boolean)) {
      if (askedSpeech.has(name)) continue;
      askedSpeech.add(name);
      const { sha256, version } = present(parseSoundName(name));
      const isSong = version === "song" && songs.includes(sha256);
      Promise.all([api.speech(name), isSong ? null : api.peaks(soundName(sha256, "spoken")).catch(() => null)]).then(
        ([speech, peaks]) => dispatch(soundActions.speechFound({ sha256, speech, peaks })),
        (error: Error) => {
          askedSpeech.delete(name);
          dispatch(viewActions.toastShown(error.message));
        },
      );
    }
  }, [dispatch, wanted, songs]);
  useEffect(
    () => () => {
      askedSpeech.clear();
      dispatch(soundActions.soundsCleared());
    },
    [dispatch],
  );
}

const askedSpeech = new Set<string>();
