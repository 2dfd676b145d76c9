import { insertSlide, moveSlide, newShowDocument, removeSlides } from "@humming-tide/core/show";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { showActions, showReducer } from "./show-slice.ts";

const HASH = "ab".repeat(32);
const slide = (id: string) => ({ id, sha256: HASH, fileName: `${id}.jpg`, landingLockSeconds: null });
const opened = showReducer(
  undefined,
  showActions.opened({ id: "show", revision: 1, document: newShowDocument("Regatta"), media: {} }),
);

describe("history", () => {
  it("gives back the very same documents on undo and redo, after any edits", () => {
    const anyEdit = fc.tuple(
      fc.constantFrom("insert", "move", "remove"),
      fc.constantFrom("a", "b", "c", "d"),
      fc.nat(4),
    );
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 30 }), (edits) => {
        const documents = [opened.document!];
        let state = opened;
        for (const [kind, id, at] of edits) {
          const now = state.document!;
          const next =
            kind === "insert"
              ? insertSlide(now, slide(id), at)
              : kind === "move"
                ? moveSlide(now, id, at)
                : removeSlides(now, new Set([id]));
          state = showReducer(state, showActions.edited(next));
          if (state.document !== documents.at(-1)) documents.push(state.document!);
        }
        for (const before of documents.slice(0, -1).reverse()) {
          state = showReducer(state, showActions.undone());
          expect(state.document).toBe(before);
        }
        for (const after of documents.slice(1)) {
          state = showReducer(state, showActions.redone());
          expect(state.document).toBe(after);
        }
        expect(state.future).toEqual([]);
      }),
    );
  });

  it("takes edits of one tag together as one step, but not across another edit", () => {
    let state = opened;
    const add = (id: string, tag: string | null): void => {
      state = showReducer(state, showActions.edited(insertSlide(state.document!, slide(id), 99), tag));
    };
    add("a", "drop 1");
    add("b", "drop 1");
    add("c", null);
    add("d", "drop 1");
    expect(state.past).toHaveLength(3);
    for (const left of [3, 2, 0]) {
      state = showReducer(state, showActions.undone());
      expect(state.document!.slides).toHaveLength(left);
    }
  });

  it("knows whether what was saved is still the newest, and waits for a choice in a conflict", () => {
    const first = { ...opened.document!, title: "First" };
    const second = { ...opened.document!, title: "Second" };
    let state = showReducer(opened, showActions.edited(first));
    state = showReducer(state, showActions.edited(second));
    state = showReducer(state, showActions.savedAs({ revision: 2, document: first }));
    expect([state.revision, state.saveState.kind]).toEqual([2, "unsaved"]);
    state = showReducer(state, showActions.savedAs({ revision: 3, document: second }));
    expect(state.saveState.kind).toBe("saved");
    state = showReducer(state, showActions.saveStateChanged({ kind: "conflict", message: "" }));
    state = showReducer(state, showActions.undone());
    expect(state.saveState.kind).toBe("conflict");
    expect(showReducer(state, showActions.rebased(9))).toMatchObject({ revision: 9, saveState: { kind: "unsaved" } });
  });
});
