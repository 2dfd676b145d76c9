import { filmSecondsOf } from "@humming-tide/core/arrange";
import type { FilmPlan, FilmSlot } from "@humming-tide/core/film";
import { itemAt } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import { type FrameRate, frameStart } from "@humming-tide/core/time";
import type { MovedLandings } from "../../../plan/moved-landings.ts";
import { placeAt, type ScoreLayout, spansBetween } from "../layout/score-layout.ts";

/** A slot, or the part of one that lies in a row. */
export interface Piece {
  readonly slot: FilmSlot;
  /** Shares of the row's width. */
  readonly from: number;
  readonly to: number;
  /** Whether the slot begins in this piece. */
  readonly first: boolean;
}

/** Where a passage begins. */
export interface PassageMark {
  readonly passageId: string;
  readonly name: string;
  readonly share: number;
  readonly locked: boolean;
  /** The first passage begins with the film. */
  readonly movable: boolean;
}

/** What a row shows beside its music. */
export interface RowContent {
  readonly pieces: readonly Piece[];
  readonly passages: readonly PassageMark[];
  /** Shares at which landings lay before the last change. */
  readonly ghosts: readonly number[];
  /** Slides whose beginning the last change has moved. */
  readonly moved: ReadonlySet<string>;
}

/** Every row's content. O(slots + rows). */
export function contentOfRows(
  plan: FilmPlan,
  layout: ScoreLayout,
  show: ShowDocument,
  moves: MovedLandings | null,
): readonly RowContent[] {
  const rows = layout.rows.map(() => ({
    pieces: [] as Piece[],
    passages: [] as PassageMark[],
    ghosts: [] as number[],
    moved: new Set<string>(),
  }));
  const filmSeconds = frameStart(plan.totalFrames, plan.rate);
  const passageOf = new Map(show.slides.map((slide) => [slide.id, slide.passageId]));
  const passages = new Map(show.passages.map((passage, index) => [passage.id, { passage, index }]));
  const begun = new Set<string>();
  const movedIds = new Set(moves?.moved.map(({ slideId }) => slideId));
  for (const slot of plan.slots) {
    const from = slot.landing?.seconds ?? 0;
    const spans = spansBetween(layout, from, plan.slots[slot.index + 1]?.landing?.seconds ?? filmSeconds);
    spans.forEach((span, i) => rows[span.row]?.pieces.push({ slot, from: span.from, to: span.to, first: i === 0 }));
    if (slot.round > 0) continue;
    const { row, share } = placeAt(layout, from);
    if (movedIds.has(slot.slideId)) itemAt(rows, row).moved.add(slot.slideId);
    const passageId = passageOf.get(slot.slideId) ?? "";
    const found = passages.get(passageId);
    if (!found || begun.has(passageId)) continue;
    begun.add(passageId);
    const { passage, index } = found;
    const name = passage.name || `Passage ${index + 1}`;
    const locked = passage.startLock !== null && filmSecondsOf(plan.music, passage.startLock) !== null;
    itemAt(rows, row).passages.push({ passageId, name, share, locked, movable: index > 0 });
  }
  for (const { fromSeconds } of moves?.moved ?? []) {
    const { row, share } = placeAt(layout, fromSeconds);
    itemAt(rows, row).ghosts.push(share);
  }
  return rows;
}

const signatures = new WeakMap<RowContent, string>();

/**
 * Text that is equal exactly if rows look equal: a re-lay renders only the rows that it changes.
 * Made for rows in sight only.
 */
export function signatureOf(row: RowContent, rate: FrameRate): string {
  const known = signatures.get(row);
  if (known !== undefined) return known;
  const pieces = row.pieces.map(({ slot, from, to }) => {
    const { kind, startFrame, endFrame } = slot.transitionIn;
    return `${slot.index} ${slot.slideId} ${slot.picture} ${slot.round} ${slot.locked} ${from} ${to} ${kind} ${startFrame} ${endFrame} ${slot.landing?.kind}`;
  });
  const passages = row.passages.map(({ passageId, name, share, locked }) => `${passageId} ${name} ${share} ${locked}`);
  const text = [`${rate.num}/${rate.den}`, ...pieces, ...passages, row.ghosts.join(), [...row.moved].join()].join("|");
  signatures.set(row, text);
  return text;
}
