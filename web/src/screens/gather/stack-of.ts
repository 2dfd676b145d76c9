import { present } from "@humming-tide/core/presence";
import { store } from "../../store/store.ts";
import { selectGather } from "./gather-slice.ts";
import { qualityOf } from "./slide-facts.ts";
import { type Stack, stacksOf } from "./stacks.ts";

/** The near-identical pictures of one, in its passage; undefined where there are none. */
export function stackOf(id: string): Stack | undefined {
  const state = store.getState();
  const { slides } = present(state.show.document);
  return stacksOf(selectGather(state).moments, slides, (slide) => qualityOf(state.show.media, slide)).get(id);
}
