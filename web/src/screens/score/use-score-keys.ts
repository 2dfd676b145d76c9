import { itemAt, present } from "@humming-tide/core/presence";
import { changeSlides, lockLanding, settleLocks, shiftSlides } from "@humming-tide/core/show";
import { frameStart } from "@humming-tide/core/time";
import { type RefObject, useEffect } from "react";
import { isForControl } from "../../keys/keys.ts";
import { letterOf } from "../../keys/letters.ts";
import type { Player } from "../../stage/player.ts";
import { usePlayer } from "../../stage/player-context.tsx";
import { edit } from "../../store/edit.ts";
import { lockedAt } from "../../store/locks.ts";
import { openShow } from "../../store/open-show.ts";
import { currentSlot, selectionActions } from "../../store/selection-slice.ts";
import { beginPassageAt, cull, cullKey, takeOut } from "../../store/slide-actions.ts";
import { store } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";
import { placeAt, type ScoreLayout, timeAt } from "./layout/score-layout.ts";
import { isFocusOnItsWay, useForgetMoved } from "./moved-by-keys.ts";

interface ScoreKeys {
  layout: ScoreLayout;
  scroller: RefObject<HTMLElement | null>;
  reveal: (row: number) => void;
  /** Opens what is selected in Dress. */
  open: () => void;
}

/** The keys of the Score (keys.ts lists them for people). */
export function useScoreKeys({ layout, scroller, reveal, open }: ScoreKeys): void {
  const player = usePlayer();
  useForgetMoved();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (isForControl(event) || !handled(event, { layout, scroller, reveal, open }, player)) return;
      event.preventDefault();
      event.stopPropagation();
    };
    // Before the keys of all screens: with Ctrl and Alt the arrows are the Score's.
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, [layout, scroller, reveal, open, player]);
}

/** Whether the key was one of the Score's. */
function handled(event: KeyboardEvent, keys: ScoreKeys, player: Player): boolean {
  const { ids } = store.getState().selection;
  const control = event.ctrlKey || event.metaKey;
  const side = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
  if (side !== 0 && isFocusOnItsWay()) return true;
  if (control && event.key.toLowerCase() === "a") {
    const slides = openShow().slides.filter((slide) => slide.rating !== "out");
    store.dispatch(selectionActions.selected({ ids: slides.map(({ id }) => id), current: null }));
    return true;
  }
  if (side !== 0 && control && !event.altKey) return stepSelection(side, event.shiftKey, keys, player);
  if (side !== 0 && event.altKey && !control && ids.size > 0) {
    edit((show) => shiftSlides(show, ids, side));
    return true;
  }
  if (control || event.altKey) return false;
  if ((event.key === "ArrowUp" || event.key === "ArrowDown") && !event.shiftKey) {
    const { row, share } = placeAt(keys.layout, player.filmSeconds());
    const target = Math.max(0, Math.min(keys.layout.rows.length - 1, row + (event.key === "ArrowUp" ? -1 : 1)));
    player.seek(timeAt(keys.layout, target, share));
    keys.reveal(target);
    return true;
  }
  if (event.key === "Escape" && ids.size > 0) {
    store.dispatch(selectionActions.cleared());
    return true;
  }
  const target = event.target as HTMLElement;
  // On a picture that is not selected Enter selects it; the next one opens it.
  const pressed = target.closest<HTMLElement>("[data-slide]")?.dataset["slide"];
  if (pressed !== undefined && !ids.has(pressed) && event.key === "Enter") return false;
  if (event.key === "Enter" && ids.size > 0 && (target === document.body || target.closest("[data-testid=score]"))) {
    keys.open();
    return true;
  }
  if (event.key === "Delete" && ids.size > 0) {
    takeOut(ids);
    return true;
  }
  return letter(event, ids);
}

function letter(event: KeyboardEvent, ids: ReadonlySet<string>): boolean {
  const pressed = letterOf(event);
  if (pressed === "fitAgain") fitAgain();
  else if (ids.size === 0) return false;
  else if (pressed === "lock") toggleLocks(ids);
  else if (pressed === "passage") beginPassageAt(itemAt([...ids], 0));
  else {
    const what = cullKey(pressed);
    if (!what) return false;
    cull(ids, what);
  }
  return true;
}

/**
 * Selects the picture before or behind the current one; with Shift all from the anchor to there.
 */
function stepSelection(side: number, isRange: boolean, keys: ScoreKeys, player: Player): boolean {
  const { selection, view, show } = store.getState();
  const { plan } = view;
  if (!plan || !show.document) return false;
  const from = currentSlot(plan, selection)?.index ?? (side > 0 ? -1 : plan.slots.length);
  const slot = itemAt(plan.slots, Math.max(0, Math.min(plan.slots.length - 1, from + side)));
  const { slideId, round } = slot;
  if (isRange && selection.anchorId !== null) {
    const slides = show.document.slides;
    const places = [selection.anchorId, slideId].map((id) => slides.findIndex((slide) => slide.id === id));
    const range = slides.slice(Math.min(...places), Math.max(...places) + 1).filter(({ rating }) => rating !== "out");
    store.dispatch(selectionActions.selected({ ids: range.map(({ id }) => id), current: { slideId, round } }));
  } else store.dispatch(selectionActions.picked({ slideId, round }));
  player.seek(frameStart(slot.startFrame, plan.rate));
  keys.reveal(placeAt(keys.layout, slot.landing?.seconds ?? 0).row);
  requestAnimationFrame(() =>
    keys.scroller.current?.querySelector<HTMLElement>(`[data-testid=slot][data-slot="${slot.index}"]`)?.focus(),
  );
  return true;
}

/**
 * Locks the landings of all selected slides where they lie; where all are locked, sets them free.
 */
export function toggleLocks(ids: ReadonlySet<string>): void {
  const slots = store
    .getState()
    .view.plan?.slots.filter((slot) => slot.landing && slot.round === 0 && ids.has(slot.slideId));
  if (!slots || slots.length === 0) return;
  const isLocked = slots.every((slot) => slot.locked);
  edit((show) =>
    slots
      .filter((slot) => slot.locked === isLocked)
      .reduce(
        (edited, slot) =>
          lockedAt(
            edited,
            slot.slideId,
            isLocked ? null : present(slot.landing).seconds,
            present(slot.landing).kind === "free",
          ),
        show,
      ),
  );
}

/**
 * Lays the selected slides again, without the landings and lengths that hold them. Without a
 * selection the whole film is laid from nothing, with all its locks.
 */
export function fitAgain(): void {
  const { ids } = store.getState().selection;
  if (ids.size === 0) {
    fitAllAgain();
    return;
  }
  const before = store.getState().show.document;
  edit((show) =>
    [...ids].reduce((edited, id) => {
      const length = edited.slides.find((slide) => slide.id === id)?.length;
      const freed = lockLanding(edited, id, null);
      return length?.locked ? changeSlides(freed, new Set([id]), { length: { ...length, locked: false } }) : freed;
    }, show),
  );
  if (store.getState().show.document === before) {
    store.dispatch(viewActions.toastShown("Nothing of what is selected is locked, so there is nothing to free."));
  }
}

function fitAllAgain(): void {
  const before = store.getState().show.document;
  edit(settleLocks);
  if (store.getState().show.document === before)
    store.dispatch(
      viewActions.toastShown("The film is already the best fit. Select pictures to lay them without their locks."),
    );
}
