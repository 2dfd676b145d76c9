import { type ReactNode, useEffect } from "react";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { viewActions } from "../../store/view-slice.ts";

const SHOWN_MS = 7000;

/** Something told in passing, for example why an edit was refused. */
export function Toast(): ReactNode {
  const dispatch = useAppDispatch();
  const toast = useAppSelector((state) => state.view.toast);
  useEffect(() => {
    if (!toast) return;
    const timer = setTimeout(() => dispatch(viewActions.toastShown(null)), SHOWN_MS);
    return () => clearTimeout(timer);
  }, [dispatch, toast]);
  return (
    <div role="status" className="pointer-events-none fixed inset-x-0 bottom-5 z-50 flex justify-center">
      {toast && (
        <p className="max-w-[560px] rounded-lg bg-ink px-4 py-2.5 text-[14px] text-ground shadow-2xl">{toast.text}</p>
      )}
    </div>
  );
}
