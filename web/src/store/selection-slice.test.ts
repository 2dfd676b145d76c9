import { newShowDocument, newSlide, type ShowDocument } from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { type SelectionState, selectionActions, selectionReducer } from "./selection-slice.ts";
import { showActions } from "./show-slice.ts";

const shown = (slideId: string) => ({ slideId, round: 0 });
const after = (...actions: readonly Parameters<typeof selectionReducer>[1][]): SelectionState =>
  actions.reduce<SelectionState>(
    (state, action) => selectionReducer(state, action),
    selectionReducer(undefined, { type: "" }),
  );
const showOf = (...ids: readonly string[]): ShowDocument => ({
  ...newShowDocument("Regatta"),
  slides: ids.map((id) => newSlide({ id, sha256: "a".repeat(64), fileName: `${id}.jpg` })),
});

describe("what is selected", () => {
  it("is one slide, or more that are added and taken out again", () => {
    const { picked, toggled } = selectionActions;
    expect([...after(picked(shown("a")), toggled(shown("b"))).ids]).toEqual(["a", "b"]);
    expect([...after(picked(shown("a")), toggled(shown("b")), toggled(shown("a"))).ids]).toEqual(["b"]);
    const other = after(toggled(shown("a")), picked(shown("b")));
    expect([...other.ids]).toEqual(["b"]);
    expect(other.anchorId).toBe("b");
  });

  it("keeps its anchor for the next range, and the slide that keys act on where none is named", () => {
    const { picked, selected, focused } = selectionActions;
    const range = after(picked(shown("a")), selected({ ids: ["a", "b", "c"], current: shown("c") }));
    expect(range).toMatchObject({ anchorId: "a", current: { slideId: "c" } });
    expect(after(picked(shown("a")), focused(shown("b")), selected({ ids: [] }))).toMatchObject({
      ...{ anchorId: "a", current: { slideId: "b" }, ids: new Set() },
    });
  });

  it("loses what an edit takes out of the show, and everything when the show is closed", () => {
    const some = selectionActions.selected({ ids: ["a", "b"], current: shown("b") });
    const left = after(some, showActions.edited(showOf("a", "c")));
    expect(left).toMatchObject({ ids: new Set(["a"]), current: null });
    const same = after(some);
    // Where nothing was lost, nothing is drawn again.
    expect(selectionReducer(same, showActions.edited(showOf("a", "b"))).ids).toBe(same.ids);
    expect(after(some, showActions.closed()).ids.size).toBe(0);
  });
});
