import { HummingTideError } from "@humming-tide/core";
import type { ShowDocument } from "@humming-tide/core/show";
import { showActions } from "./show-slice.ts";
import { store } from "./store.ts";
import { viewActions } from "./view-slice.ts";

/**
 * Makes one undoable edit of the open show. Edits of one tag in a row are one step. Where a rule of
 * the show refuses it, the reason is said and nothing changes.
 */
export function edit(change: (show: ShowDocument) => ShowDocument, tag: string | null = null): void {
  const { document } = store.getState().show;
  if (!document) return;
  try {
    store.dispatch(showActions.edited(change(document), tag));
  } catch (error) {
    if (!(error instanceof HummingTideError)) throw error;
    store.dispatch(viewActions.toastShown(error.message));
  }
}
