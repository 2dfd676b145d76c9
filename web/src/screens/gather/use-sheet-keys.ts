import { itemAt, valueFor } from "@humming-tide/core/presence";
import { shiftSlides } from "@humming-tide/core/show";
import type { KeyboardEvent } from "react";
import { letterOf } from "../../keys/letters.ts";
import { edit } from "../../store/edit.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { beginPassageAt, cull, cullKey, takeOut, turn } from "../../store/slide-actions.ts";
import { store, useAppDispatch } from "../../store/store.ts";
import { gatherActions } from "./gather-slice.ts";
import { rangeOf, type SheetLayout, type SheetStep, stepFrom } from "./sheet-layout.ts";
import { stackOf } from "./stack-of.ts";
import { chosenOf } from "./stacks.ts";

const STEPS: Readonly<Record<string, SheetStep>> = {
  ArrowLeft: "left",
  ArrowRight: "right",
  ArrowUp: "up",
  ArrowDown: "down",
  Home: "home",
  End: "end",
};

/** What the keys of the sheet need to know and to do. */
interface Sheet {
  readonly layout: SheetLayout;
  readonly reveal: (id: string) => void;
  readonly open: (id: string) => void;
  readonly dispatch: ReturnType<typeof useAppDispatch>;
}

/** The keys of the contact sheet (keys.ts lists them for people). */
export function useSheetKeys(
  layout: SheetLayout,
  reveal: (id: string) => void,
  open: (id: string) => void,
): (event: KeyboardEvent) => void {
  const dispatch = useAppDispatch();
  return (event) => {
    if ((event.target as HTMLElement).closest("input, select, button, textarea")) return;
    if (!handle({ layout, reveal, open, dispatch }, event)) return;
    event.preventDefault();
    event.stopPropagation();
  };
}

/** Whether the key was one of the sheet's. */
function handle(sheet: Sheet, event: KeyboardEvent): boolean {
  const { layout, open, dispatch } = sheet;
  const { current, ids: selected } = store.getState().selection;
  const focusId = current?.slideId ?? null;
  const control = event.ctrlKey || event.metaKey;
  if (control && event.key.toLowerCase() === "a") {
    dispatch(selectionActions.selected({ ids: layout.shown.map(({ id }) => id) }));
    return true;
  }
  const step = STEPS[event.key];
  if (step) return event.altKey ? moveBy(sheet, step, selected, focusId) : stepTo(sheet, event, step, focusId);
  if (event.key === "Escape") {
    dispatch(selectionActions.selected({ ids: [] }));
    return selected.size > 0;
  }
  const from = focusId === null ? undefined : layout.placeOf.get(focusId);
  if (focusId === null || from === undefined) return false;
  if (control && event.key === " ") {
    dispatch(selectionActions.toggled({ slideId: focusId, round: 0 }));
    return true;
  }
  if (control || event.altKey) return false;
  const ids = selected.size > 0 ? selected : new Set([focusId]);
  if (event.key === "Enter") open(focusId);
  else if (event.key === "Delete") takeOut(ids);
  else return letter(sheet, event, ids, from);
  return true;
}

/** Moves the focus: alone, with Shift as a range, with Control and the selection as it is. */
function stepTo({ layout, reveal, dispatch }: Sheet, event: KeyboardEvent, step: SheetStep, focusId: string | null) {
  const from = focusId === null ? undefined : layout.placeOf.get(focusId);
  const to = layout.shown[from === undefined && step !== "end" ? 0 : stepFrom(layout, from ?? 0, step)];
  if (!to) return true;
  const anchor = layout.placeOf.get(store.getState().selection.anchorId ?? "");
  const current = { slideId: to.id, round: 0 };
  if (event.shiftKey && anchor !== undefined) {
    const ids = rangeOf(layout, anchor, valueFor(layout.placeOf, to.id));
    dispatch(selectionActions.selected({ ids, current }));
  } else if (event.ctrlKey || event.metaKey) dispatch(selectionActions.focused(current));
  else dispatch(selectionActions.picked(current));
  reveal(to.id);
  return true;
}

/** A letter that rates, turns or begins a passage. */
function letter(sheet: Sheet, event: KeyboardEvent, ids: ReadonlySet<string>, from: number): boolean {
  const { layout, reveal, dispatch } = sheet;
  const pressed = letterOf(event);
  const what = cullKey(pressed);
  if (what) {
    cull(ids, what);
    // One picture after another: the next one comes by itself. A hero keeps its place, since its
    // rating may follow.
    const next = layout.shown[from + 1];
    if (ids.size === 1 && what !== "hero" && next) {
      dispatch(selectionActions.picked({ slideId: next.id, round: 0 }));
      reveal(next.id);
    }
    return true;
  }
  if (pressed === "choose" || pressed === "compare") return stackKey(sheet, pressed, itemAt(layout.shown, from).id);
  if (pressed === "turn") turn(ids, event.shiftKey ? -1 : 1);
  else if (pressed === "passage") beginPassageAt(itemAt(layout.shown, from).id);
  else return false;
  return true;
}

/** Compares a picture with those that are alike, or chooses it and leaves them out. */
function stackKey({ dispatch }: Sheet, pressed: "choose" | "compare", id: string): boolean {
  const stack = stackOf(id);
  if (!stack) return false;
  if (pressed === "choose") edit((show) => chosenOf(show, stack, id));
  else dispatch(gatherActions.largeViewSet({ ids: stack.ids, at: stack.ids.indexOf(id), compare: true }));
  return true;
}

/** Moves what is selected, or the picture that has the focus, in the order of the film. */
function moveBy(
  { layout, reveal }: Sheet,
  step: SheetStep,
  selected: ReadonlySet<string>,
  focusId: string | null,
): boolean {
  const ids = selected.size > 0 ? selected : new Set(focusId === null ? [] : [focusId]);
  const steps = { left: -1, right: 1, up: -layout.columns, down: layout.columns, home: -1e6, end: 1e6 }[step];
  edit((show) => shiftSlides(show, ids, steps));
  if (focusId) requestAnimationFrame(() => reveal(focusId));
  return true;
}
