import { HummingTideError } from "@humming-tide/core";
import type { ShowDocument } from "@humming-tide/core/show";
import { showActions } from "../../store/show-slice.ts";
import { store } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";

/** Makes one undoable edit of the open show. Where a rule of the show refuses it, the reason is said and nothing changes. */
export function edit(change: (show: ShowDocument) => ShowDocument): void {
  const { document } = store.getState().show;
  if (!document) return;
  try {
    store.dispatch(showActions.edited(change(document)));
  } catch (error) {
    if (!(error instanceof HummingTideError)) throw error;
    store.dispatch(viewActions.said(error.message));
  }
}
