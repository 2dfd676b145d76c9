import path from "node:path";
import { setTimeout } from "node:timers/promises";
import type { DiscWish } from "@humming-tide/contract";
import { chaptersOf } from "@humming-tide/core/film";
import { gigabytes } from "../gigabytes.ts";
import type { ExportQueue } from "../jobs/export-queue.ts";
import type { JobContext } from "../jobs/job-runner.ts";
import type { FilmPlanner } from "../media/film-planner.ts";
import { serviceError } from "../services/service-errors.ts";
import type { DeliveryStore, StoredDelivery } from "../store/delivery-store.ts";
import { writeDiscImage } from "./disc-image.ts";
import { bytesOnDisc, DISC_BYTES, discFor } from "./disc-size.ts";
import type { DiscWriter } from "./disc-writer.ts";

const ASK_EVERY_MS = 400;
/** Of a disc: the folder, writing; verifying is the rest. */
const IMAGE_SHARE = 0.1;
const WRITE_SHARE = 0.6;

/** What discs are made from. */
export interface DiscSources {
  readonly exports: ExportQueue;
  readonly planner: FilmPlanner;
  readonly deliveries: DeliveryStore;
  /** Throws `no-services`. */
  readonly writer: () => DiscWriter;
}

/**
 * Makes the folder of a disc and writes the disc. Returns the last step. Throws `disc-spoilt` where
 * an earlier try had begun to write, `disc-too-small`, `disc-wanted`, `burn-failed`, `no-services`,
 * what the drive throws, and the signal's reason: a disc that was begun is spoilt then.
 */
export async function burnDisc(
  sources: DiscSources,
  { delivery, serviceId }: StoredDelivery,
  wish: DiscWish,
  { signal, tell }: JobContext,
): Promise<string> {
  const { deliveries, writer } = sources;
  if (serviceId !== null) throw serviceError("disc-spoilt");
  const { folder, bytes } = await makeFolder(sources, delivery.id, wish, { signal, tell });
  const kind = discFor(bytes);
  await deliveries.update(delivery.id, { remark: kind === "double" ? TWO_LAYERS : null, place: folder });
  if (kind === null) throw serviceError("disc-too-small", { bytes, discBytes: DISC_BYTES.double });
  if (wish.onlyFolder) return "The folder is made";
  const disc = writer();
  checkMedium((await disc.drive()).medium, bytes, kind);
  const begun = await disc.begin(folder, wish.label);
  await deliveries.update(delivery.id, { serviceId: begun.id });
  await watchBurn(disc, begun.id, { signal, tell });
  return "Written and verified";
}

async function makeFolder(
  { exports, planner }: DiscSources,
  deliveryId: string,
  { exportId, firstPlay, onlyFolder }: DiscWish,
  { signal, tell }: JobContext,
): Promise<{ readonly folder: string; readonly bytes: number }> {
  const job = await exports.get(exportId);
  const document = await exports.documentOf(job.id);
  const plan = await planner.plan(document, job.output);
  const filmPath = exports.filmPath(job);
  const folder = path.join(path.dirname(filmPath), `disc-${deliveryId}`);
  const sizes = await writeDiscImage({
    ...{ folder, filmPath, firstPlay, signal, title: document.title, rate: plan.rate, totalFrames: plan.totalFrames },
    subtitle: [document.event, document.date].filter(Boolean).join(", "),
    chapters: chaptersOf(document, plan),
    onProgress: (share) => tell("Making the menu", (onlyFolder ? 1 : IMAGE_SHARE) * share),
  });
  return { folder, bytes: bytesOnDisc(sizes) };
}

type Medium = Awaited<ReturnType<DiscWriter["drive"]>>["medium"];

function checkMedium(medium: Medium, bytes: number, kind: "single" | "double"): void {
  if (medium?.state === "blank" && bytes <= medium.bytes) return;
  const found =
    medium === null
      ? "There is no disc in the drive"
      : medium.state === "blank"
        ? `The disc in the drive holds ${gigabytes(medium.bytes)}, and ${gigabytes(bytes)} are wanted`
        : "The disc in the drive is not blank";
  const wanted = kind === "single" ? "4.7 GB" : "two layers, 8.5 GB";
  throw serviceError("disc-wanted", { found, wanted });
}

async function watchBurn(disc: DiscWriter, burnId: string, { signal, tell }: JobContext): Promise<void> {
  try {
    for (;;) {
      const { state, progress, error } = await disc.burn(burnId);
      if (state === "done") return;
      if (state === "failed" || state === "cancelled") throw serviceError("burn-failed", { why: error ?? null });
      if (state === "writing") tell("Writing the disc", IMAGE_SHARE + WRITE_SHARE * progress);
      else tell("Reading the disc again", IMAGE_SHARE + WRITE_SHARE + (1 - IMAGE_SHARE - WRITE_SHARE) * progress);
      await setTimeout(ASK_EVERY_MS, undefined, { signal });
    }
  } catch (error) {
    if (!signal.aborted) throw error;
    await disc.cancel(burnId).catch(() => undefined);
    throw signal.reason as Error;
  }
}

/** Common practice. */
const TWO_LAYERS =
  "It needs a disc with two layers. Not every drive writes them. Some players stop for a moment where " +
  "the layers meet, or do not read them at all. Below 4.7 GB an ordinary disc would do.";
