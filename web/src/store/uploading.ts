import type { MediaFacts } from "@humming-tide/contract";
import { chooseSong, insertSlide } from "@humming-tide/core/show";
import type { ApiFailure } from "../api.ts";
import { uploadFile } from "../api.ts";
import { showActions } from "./show-slice.ts";
import { store } from "./store.ts";
import { type Upload, uploadActions } from "./upload-slice.ts";

/** Files sent at the same time: enough to keep the line and two cores busy. */
const AT_ONCE = 3;

interface Waiting {
  readonly id: string;
  /** The drop or choice that the file came with. */
  readonly batch: string;
  readonly file: File;
  readonly showId: string;
}

const waiting: Waiting[] = [];
/** Ids of all files in the order in which they were given: small files overtake large ones on the way in. */
const givenOrder: string[] = [];
const running = new Map<string, AbortController>();

/** Queues files for the open show. Pictures become slides in the order given; a song becomes the show's song. */
export function uploadFiles(files: readonly File[]): void {
  const showId = store.getState().show.id;
  if (!showId) return;
  const batch = crypto.randomUUID();
  const queued = files.map((file) => ({ id: crypto.randomUUID(), batch, file, showId }));
  waiting.push(...queued);
  givenOrder.push(...queued.map(({ id }) => id));
  const rows = queued.map(
    ({ id, file }): Upload => ({
      id,
      fileName: file.name,
      bytes: file.size,
      state: "waiting",
      progress: 0,
      message: null,
    }),
  );
  store.dispatch(uploadActions.uploadsQueued(rows));
  for (let i = running.size; i < AT_ONCE; i++) void next();
}

/** Breaks off what is being sent and forgets what waits. What is in already stays. */
export function stopUploads(): void {
  for (const { id } of waiting.splice(0))
    store.dispatch(uploadActions.uploadChanged({ id, state: "stopped", message: "Stopped before it was sent." }));
  for (const controller of running.values()) controller.abort();
}

async function next(): Promise<void> {
  const item = waiting.shift();
  if (!item) return;
  const { id, batch, file, showId } = item;
  const controller = new AbortController();
  running.set(id, controller);
  const change = (values: Partial<Upload>): void => void store.dispatch(uploadActions.uploadChanged({ id, ...values }));
  change({ state: "sending" });
  try {
    const facts = await uploadFile(
      file,
      (progress) => change(progress < 1 ? { progress } : { progress, state: "taking-in" }),
      controller.signal,
    );
    if (store.getState().show.id === showId) place(id, batch, facts, change);
  } catch (error) {
    const failure = error as ApiFailure;
    change(
      failure.code === "cancelled"
        ? { state: "stopped", message: failure.message }
        : { state: "refused", message: failure.message },
    );
  } finally {
    running.delete(id);
    void next();
  }
}

function place(id: string, batch: string, facts: MediaFacts, change: (values: Partial<Upload>) => void): void {
  const { document } = store.getState().show;
  if (!document) return;
  store.dispatch(showActions.mediaArrived(facts));
  const there =
    facts.kind === "picture"
      ? document.slides.some((slide) => slide.sha256 === facts.sha256)
      : document.song?.sha256 === facts.sha256;
  if (there) {
    change({ state: "already-there", progress: 1, message: "Already in this show." });
    return;
  }
  const { sha256, fileName } = facts;
  const edited =
    facts.kind === "picture"
      ? insertSlide(
          document,
          { id, sha256, fileName, landingLockSeconds: null },
          placeInGivenOrder(id, document.slides),
        )
      : chooseSong(document, { sha256, fileName });
  store.dispatch(showActions.edited(edited, batch));
  change({ state: "in", progress: 1, message: facts.kind === "song" ? facts.remark : null });
}

/** Before the first slide that was given later; behind the last where there is none. */
function placeInGivenOrder(id: string, slides: readonly { readonly id: string }[]): number {
  const own = givenOrder.indexOf(id);
  const later = slides.findIndex((slide) => givenOrder.indexOf(slide.id) > own);
  return later < 0 ? slides.length : later;
}
