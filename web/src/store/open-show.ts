import type { ShowDocument } from "@humming-tide/core/show";
import { store, useAppSelector } from "./store.ts";

/**
 * The show that is open, or a part of it: for what stands inside the frame of a show, which draws
 * nothing before one is open (screens/show/ShowFrame).
 */
export function useOpenShow(): ShowDocument;
export function useOpenShow<Part>(part: (show: ShowDocument) => Part): Part;
export function useOpenShow<Part>(part?: (show: ShowDocument) => Part): Part | ShowDocument {
  return useAppSelector(({ show: { document } }) => {
    const open = document as ShowDocument;
    return part ? part(open) : open;
  });
}

/** The id of the show that is open. */
export const useShowId = (): string => useAppSelector((state) => state.show.id as string);

/** The open show as it is now, for what answers a press or a key. */
export const openShow = (): ShowDocument => store.getState().show.document as ShowDocument;
