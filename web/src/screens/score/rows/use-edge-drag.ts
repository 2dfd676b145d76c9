import { present } from "@humming-tide/core/presence";
import { movePassageStart, type ShowDocument } from "@humming-tide/core/show";
import { frameStart, nearestFrame } from "@humming-tide/core/time";
import { type PointerEvent as ReactPointerEvent, useMemo } from "react";
import { lockedAt } from "../../../store/locks.ts";
import { showActions } from "../../../store/show-slice.ts";
import { store } from "../../../store/store.ts";
import { nearestRealBeat, type ScoreLayout } from "../layout/score-layout.ts";
import { decibelsAtTop } from "../sound/draw-sound.ts";
import { withLevelPoint, withVoiceAt } from "../sound/sound-actions.ts";
import { originOf, voicePiece } from "../sound/voice-piece.ts";
import type { ScorePointer } from "./score-pointer.ts";

type Press = ReactPointerEvent<HTMLElement>;

/**
 * What the edges between slides can be dragged by; each drag is one undo step, and Escape puts
 * everything back.
 */
export interface EdgeDrags {
  /** A landing, from beat to beat; with Alt held, from frame to frame. */
  readonly landing: (event: Press, slotIndex: number) => void;
  /** The beginning of a passage, from slide to slide. */
  readonly passage: (event: Press, passageId: string) => void;
  /** A voice that begins at this moment, to any other. */
  readonly voice: (event: Press, voiceId: string, startSeconds: number) => void;
  /** A point of the music's level under a voice. */
  readonly levelPoint: (event: Press, voiceId: string, index: number) => void;
}

export function useEdgeDrags(pointer: ScorePointer, layout: ScoreLayout | null): EdgeDrags {
  return useMemo(
    () => ({
      landing: (event, slotIndex) => {
        const plan = store.getState().view.plan;
        const slot = plan?.slots[slotIndex];
        if (!plan || !layout || !slot?.landing || slot.round > 0) return;
        drag(event, (before, moved) => {
          const at = pointer.timeUnder(moved.clientX, moved.clientY);
          if (at === null) return null;
          const exact = moved.altKey;
          const target = exact
            ? frameStart(nearestFrame(at, plan.rate), plan.rate)
            : nearestRealBeat(layout, at).seconds;
          return { key: `${target} ${exact}`, show: () => lockedAt(before, slot.slideId, target, exact) };
        });
      },
      passage: (event, passageId) => {
        const { plan } = store.getState().view;
        const { document } = store.getState().show;
        if (!plan || !document) return;
        const index = document.passages.findIndex((passage) => passage.id === passageId);
        const both = new Set([passageId, document.passages[index - 1]?.id]);
        const passageOf = new Map(document.slides.map((slide) => [slide.id, slide.passageId]));
        // Slides are found where they lay when the drag began: they move under it.
        const edges = plan.slots
          .filter((slot) => slot.round === 0 && both.has(passageOf.get(slot.slideId)))
          .map((slot) => ({ slideId: slot.slideId, seconds: slot.landing?.seconds ?? 0 }));
        drag(event, (before, moved) => {
          const at = pointer.timeUnder(moved.clientX, moved.clientY);
          if (at === null || edges.length === 0) return null;
          const nearest = edges.reduce((best, edge) =>
            Math.abs(edge.seconds - at) < Math.abs(best.seconds - at) ? edge : best,
          );
          return { key: nearest.slideId, show: () => movePassageStart(before, passageId, nearest.slideId) };
        });
      },
      voice: (event, voiceId, startSeconds) => {
        const grabbed = pointer.timeUnder(event.clientX, event.clientY) ?? startSeconds;
        drag(event, (before, moved) => {
          const at = pointer.timeUnder(moved.clientX, moved.clientY);
          if (at === null) return null;
          const target = Math.max(0, Math.round(100 * (startSeconds + at - grabbed)) / 100);
          return { key: String(target), show: () => withVoiceAt(before, voiceId, target) };
        });
      },
      levelPoint: (event, voiceId, index) => {
        const lane = present(event.currentTarget.parentElement).getBoundingClientRect();
        const { plan } = store.getState().view;
        const piece = plan && voicePiece(plan, voiceId);
        if (!piece) return;
        const origin = originOf(piece);
        drag(event, (before, moved) => {
          const at = pointer.timeUnder(moved.clientX, lane.top + 2);
          if (at === null) return null;
          const decibels = Math.round(2 * decibelsAtTop(moved.clientY - lane.top)) / 2;
          const point = { seconds: at - origin, decibels };
          return { key: `${at} ${decibels}`, show: () => withLevelPoint(before, voiceId, index, point) };
        });
      },
    }),
    [pointer, layout],
  );
}

interface Change {
  /** The same for the same change: nothing is done twice. */
  readonly key: string;
  readonly show: () => ShowDocument;
}

/**
 * Shows what the pointer would make of the show while it is held; `change` gives null where it
 * means nothing.
 */
function drag(event: Press, change: (before: ShowDocument, moved: PointerEvent) => Change | null): void {
  const before = store.getState().show.document;
  if (!before || event.button !== 0) return;
  event.preventDefault();
  event.stopPropagation();
  const handle = event.currentTarget;
  handle.focus({ preventScroll: true });
  // The handle may be drawn again elsewhere while it moves: the window hears the pointer in any
  // case.
  let made: ShowDocument = before;
  let key = "";
  let hasMoved = false;
  const start = { x: event.clientX, y: event.clientY };
  const move = (moved: PointerEvent): void => {
    if (!hasMoved && Math.hypot(moved.clientX - start.x, moved.clientY - start.y) < 3) return;
    hasMoved = true;
    const next = change(before, moved);
    if (next === null || next.key === key) return;
    key = next.key;
    made = next.show();
    store.dispatch(showActions.drafted(made));
  };
  const end = (keep: boolean): void => {
    window.removeEventListener("pointermove", move);
    window.removeEventListener("pointerup", up);
    window.removeEventListener("pointercancel", cancel);
    window.removeEventListener("keydown", escape, true);
    if (keep && made !== before) store.dispatch(showActions.edited(made));
    else store.dispatch(showActions.drafted(null));
  };
  const up = (): void => end(true);
  const cancel = (): void => end(false);
  const escape = (key: KeyboardEvent): void => {
    if (key.key !== "Escape") return;
    key.stopPropagation();
    end(false);
  };
  window.addEventListener("pointermove", move);
  window.addEventListener("pointerup", up);
  window.addEventListener("pointercancel", cancel);
  window.addEventListener("keydown", escape, true);
}
