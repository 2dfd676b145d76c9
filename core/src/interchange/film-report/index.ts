import { z } from "zod";
import type { FilmPlan } from "../../film/index.ts";
import { isMoving } from "../../picture/index.ts";
import { itemAt, lastOf } from "../../presence/index.ts";
import { asFrames, asMilliseconds, asSeconds } from "../../time/index.ts";
import { interchangeError } from "../interchange-errors.ts";

/**
 * The film report: what was planned, for scripts and for measuring the film afterwards. startFrame
 * is the landing's frame (less the lead), endFrame is exclusive; slot 0 starts at frame 0 and has
 * no landing; landingSeconds is film time of the musical event.
 */
export const filmReportSchema = z.object({
  fps: z.object({ num: z.number().int().positive(), den: z.number().int().positive() }),
  durationSeconds: asSeconds(z.number().positive()),
  /** How many frames before its landing each change is shown; absent is 0. */
  leadFrames: asFrames(z.number().int().nonnegative()).optional(),
  slots: z
    .array(
      z.object({
        index: z.number().int().nonnegative(),
        source: z.string(),
        startFrame: asFrames(z.number().int().nonnegative()),
        endFrame: asFrames(z.number().int().positive()),
        landingSeconds: asSeconds(z.number()).nullable(),
        landingErrorMs: asMilliseconds(z.number()).nullable(),
        transitionIn: z.object({
          kind: z.string(),
          startFrame: asFrames(z.number().int().nonnegative()),
          endFrame: asFrames(z.number().int().nonnegative()),
        }),
        /**
         * How much of the new picture is in the drawn frames around the change, from the first that
         * a measurement looks at (core/measure); there where pictures move or the transition has a
         * shape, so that the film alone could not tell.
         */
        drawnShares: z.array(z.number()).min(2).optional(),
      }),
    )
    .min(1),
  music: z.object({
    path: z.string(),
    sha256: z.string(),
    filmStartSeconds: asSeconds(z.number().nonnegative()),
    songStartSeconds: asSeconds(z.number().nonnegative()),
  }),
  /**
   * Every stretch of a song that is heard alone and with its own pitch or at another speed of up to
   * 1 %; absent where a single song plays through as recorded.
   */
  pieces: z
    .array(
      z.object({
        path: z.string(),
        sha256: z.string(),
        filmStartSeconds: asSeconds(z.number().nonnegative()),
        filmEndSeconds: asSeconds(z.number().positive()),
        songStartSeconds: asSeconds(z.number().nonnegative()),
        /** Seconds of the song in a second of the film. */
        speed: z.number().min(0.98).max(1.02),
      }),
    )
    .optional(),
});
export type FilmReport = z.infer<typeof filmReportSchema>;

/** The slots as they are planned. */
export function filmSlots(plan: FilmPlan): FilmReport["slots"] {
  return plan.slots.map((slot) => ({
    index: slot.index,
    source: slot.name,
    startFrame: slot.startFrame,
    endFrame: slot.endFrame,
    landingSeconds: slot.landing?.seconds ?? null,
    landingErrorMs: slot.landingErrorMs,
    transitionIn: {
      kind: slot.transitionIn.kind,
      startFrame: slot.transitionIn.startFrame,
      endFrame: slot.transitionIn.endFrame,
    },
  }));
}

/**
 * Whether the change into a slot can be measured in a film by itself: a cut or a dissolve between
 * slides in which nothing moves, comes or goes.
 */
export function isMeasurableFromFrames(plan: FilmPlan, index: number): boolean {
  const slot = itemAt(plan.slots, index);
  if (slot.transitionIn.kind !== "cut" && slot.transitionIn.kind !== "dissolve") return false;
  return [slot, itemAt(plan.slots, index - 1)].every(
    ({ move, clip, words, overlay, beside }) =>
      clip === null &&
      overlay === null &&
      !isMoving(move) &&
      beside.every((other) => !isMoving(other.move) && other.enters === null) &&
      words.times.every(
        ({ fadeInFrames, fadeOutFrames, isScrolling }) => fadeInFrames + fadeOutFrames === 0 && !isScrolling,
      ),
  );
}

/**
 * `pathOf` gives the name under which a song is known to whoever asked; `drawnShares` those of
 * slots, by index.
 */
export function filmReport(
  plan: FilmPlan,
  pathOf: (songSha256: string) => string,
  drawnShares: ReadonlyMap<number, readonly number[]> = new Map(),
): FilmReport {
  const pieces = soloPieces(plan, pathOf);
  const { path, sha256, filmStartSeconds, songStartSeconds } = pieces[0] ?? firstPiece(plan, pathOf);
  const isWhole = plan.sound.pieces.length === 1 && pieces.length === 1 && itemAt(pieces, 0).speed === 1;
  return {
    fps: { num: plan.rate.num, den: plan.rate.den },
    durationSeconds: (plan.totalFrames * plan.rate.den) / plan.rate.num,
    ...(plan.leadFrames > 0 ? { leadFrames: plan.leadFrames } : {}),
    slots: filmSlots(plan).map((slot) => {
      const shares = drawnShares.get(slot.index);
      return shares ? { ...slot, drawnShares: [...shares] } : slot;
    }),
    music: { path, sha256, filmStartSeconds, songStartSeconds },
    ...(isWhole ? {} : { pieces }),
  };
}

type ReportedPiece = NonNullable<FilmReport["pieces"]>[number];

/** A stretch shorter than this is too short to be measured. */
const SHORTEST_SOLO_SECONDS = 1;

/** Speeds nearer to 1 than this are 1. */
const SAME_SPEED = 1e-6;
const LARGEST_CHANGE = 0.0101;

/** Where one song plays, not stretched, and no other one with it. */
function soloPieces({ sound }: FilmPlan, pathOf: (songSha256: string) => string): ReportedPiece[] {
  const solos: ReportedPiece[] = [];
  for (const piece of sound.pieces) {
    if (piece.owner.kind !== "song") continue;
    for (const [i, to] of piece.time.entries()) {
      const from = piece.time[i - 1];
      if (!from) continue;
      const speed = (to.soundSeconds - from.soundSeconds) / (to.filmSeconds - from.filmSeconds);
      const others = sound.pieces.filter((other) => other !== piece);
      const start = Math.max(
        from.filmSeconds,
        ...others
          .filter((other) => itemAt(other.time, 0).filmSeconds <= from.filmSeconds)
          .map((other) => lastOf(other.time).filmSeconds),
      );
      const end = Math.min(
        to.filmSeconds,
        sound.lengthSeconds,
        ...others
          .filter((other) => itemAt(other.time, 0).filmSeconds > from.filmSeconds)
          .map((other) => itemAt(other.time, 0).filmSeconds),
      );
      if (Math.abs(speed - 1) > LARGEST_CHANGE || end - start < SHORTEST_SOLO_SECONDS) continue;
      solos.push({
        path: pathOf(piece.soundName),
        sha256: piece.soundName,
        filmStartSeconds: start,
        filmEndSeconds: end,
        songStartSeconds: from.soundSeconds + (start - from.filmSeconds) * speed,
        speed: Math.abs(speed - 1) < SAME_SPEED ? 1 : speed,
      });
    }
  }
  return solos;
}

function firstPiece({ sound }: FilmPlan, pathOf: (songSha256: string) => string): ReportedPiece {
  const piece = itemAt(sound.pieces, 0);
  const [first, last] = [itemAt(piece.time, 0), lastOf(piece.time)];
  return {
    path: pathOf(piece.soundName),
    sha256: piece.soundName,
    filmStartSeconds: first.filmSeconds,
    filmEndSeconds: last.filmSeconds,
    songStartSeconds: first.soundSeconds,
    speed: 1,
  };
}

/**
 * Reads a film report. Throws `report-not-json`; `not-a-report` and `report-not-tiled` with the
 * first place that is wrong. Slots must tile the film from frame 0.
 */
export function parseFilmReport(text: string): FilmReport {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (cause) {
    throw interchangeError("report-not-json", { why: (cause as Error).message }, { cause });
  }
  const parsed = filmReportSchema.safeParse(json);
  if (!parsed.success) {
    const issue = itemAt(parsed.error.issues, 0);
    throw interchangeError("not-a-report", { place: issue.path.join(".") || "top level", why: issue.message });
  }
  let from = 0;
  for (const [i, slot] of parsed.data.slots.entries()) {
    if (slot.startFrame !== from || slot.endFrame <= slot.startFrame) {
      throw interchangeError("report-not-tiled", {
        index: i,
        startFrame: slot.startFrame,
        endFrame: slot.endFrame,
        expectedFrame: from,
      });
    }
    from = slot.endFrame;
  }
  return parsed.data;
}
