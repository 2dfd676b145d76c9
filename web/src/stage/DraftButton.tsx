import type { ReactNode } from "react";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { viewActions } from "../store/view-slice.ts";

/** Fewer pixels for a slow machine, or all of them. */
export function DraftButton(): ReactNode {
  const isDraft = useAppSelector((root) => root.view.isDraft);
  const dispatch = useAppDispatch();
  return (
    <button
      type="button"
      aria-pressed={isDraft}
      title={isDraft ? "Draft: drawn with fewer pixels, plays on slow machines" : "Full quality"}
      className="rounded px-1.5 py-1 text-[12px] text-quiet hover:bg-high hover:text-ink aria-pressed:text-ink"
      onClick={() => dispatch(viewActions.draftToggled())}
    >
      {isDraft ? "Draft" : "Full"}
    </button>
  );
}
