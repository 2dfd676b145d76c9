import { shiftSlides } from "@humming-tide/core/show";
import type { KeyboardEvent } from "react";
import { letterKeysOn } from "../../keys/keys.ts";
import { edit } from "../../store/edit.ts";
import { selectionActions } from "../../store/selection-slice.ts";
import { beginPassageAt, cull, cullKey, takeOut, turn } from "../../store/slide-actions.ts";
import { store, useAppDispatch } from "../../store/store.ts";
import { rangeOf, type SheetLayout, type SheetStep, stepFrom } from "./sheet-layout.ts";

const STEPS: Readonly<Record<string, SheetStep>> = {
  ArrowLeft: "left",
  ArrowRight: "right",
  ArrowUp: "up",
  ArrowDown: "down",
  Home: "home",
  End: "end",
};

/** The keys of the contact sheet (keys.ts lists them for people). */
export function useSheetKeys(
  layout: SheetLayout,
  reveal: (id: string) => void,
  open: (id: string) => void,
): (event: KeyboardEvent) => void {
  const dispatch = useAppDispatch();
  return (event) => {
    if ((event.target as HTMLElement).closest("input, select, button, textarea")) return;
    if (handle(event)) {
      event.preventDefault();
      event.stopPropagation();
    }
  };

  /** Whether the key was one of the sheet's. */
  function handle(event: KeyboardEvent): boolean {
    const { current, anchorId, ids: selected } = store.getState().selection;
    const focusId = current?.slideId ?? null;
    const control = event.ctrlKey || event.metaKey;
    if (control && event.key.toLowerCase() === "a") {
      dispatch(selectionActions.selected({ ids: layout.shown.map(({ id }) => id) }));
      return true;
    }
    const step = STEPS[event.key];
    const from = focusId === null ? undefined : layout.placeOf.get(focusId);
    if (step) {
      if (event.altKey) return moveBy(step, selected, focusId);
      const to = layout.shown[from === undefined && step !== "end" ? 0 : stepFrom(layout, from ?? 0, step)];
      if (!to) return true;
      const anchor = layout.placeOf.get(anchorId ?? "");
      if (event.shiftKey && anchor !== undefined) {
        dispatch(
          selectionActions.selected({
            ids: rangeOf(layout, anchor, layout.placeOf.get(to.id)!),
            current: { slideId: to.id, round: 0 },
          }),
        );
      } else if (control) dispatch(selectionActions.focused({ slideId: to.id, round: 0 }));
      else dispatch(selectionActions.picked({ slideId: to.id, round: 0 }));
      reveal(to.id);
      return true;
    }
    if (event.key === "Escape") {
      dispatch(selectionActions.selected({ ids: [] }));
      return selected.size > 0;
    }
    if (focusId === null || from === undefined) return false;
    if (control && event.key === " ") {
      dispatch(selectionActions.toggled({ slideId: focusId, round: 0 }));
      return true;
    }
    if (control || event.altKey) return false;
    const ids = selected.size > 0 ? selected : new Set([focusId]);
    if (event.key === "Enter") open(focusId);
    else if (event.key === "Delete") takeOut(ids);
    else if (letterKeysOn()) return letter(event, ids, from);
    else return false;
    return true;
  }

  function letter(event: KeyboardEvent, ids: ReadonlySet<string>, from: number): boolean {
    const what = cullKey(event.key);
    if (what) {
      cull(ids, what);
      // One picture after another: the next one comes by itself. A hero keeps its place, since its rating may follow.
      const next = layout.shown[from + 1];
      if (ids.size === 1 && what !== "hero" && next) {
        dispatch(selectionActions.picked({ slideId: next.id, round: 0 }));
        reveal(next.id);
      }
      return true;
    }
    if (event.key.toLowerCase() === "r") turn(ids, event.shiftKey ? -1 : 1);
    else if (event.key.toLowerCase() === "p") beginPassageAt(layout.shown[from]!.id);
    else return false;
    return true;
  }

  function moveBy(step: SheetStep, selected: ReadonlySet<string>, focusId: string | null): boolean {
    const ids = selected.size > 0 ? selected : new Set(focusId === null ? [] : [focusId]);
    const steps = { left: -1, right: 1, up: -layout.columns, down: layout.columns, home: -1e6, end: 1e6 }[step];
    edit((show) => shiftSlides(show, ids, steps));
    if (focusId) requestAnimationFrame(() => reveal(focusId));
    return true;
  }
}
