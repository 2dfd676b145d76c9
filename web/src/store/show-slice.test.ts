import { present } from "@humming-tide/core/presence";
import { insertSlides, newShowDocument, newSlide } from "@humming-tide/core/show";
import { anyEdit, propertyRuns } from "@humming-tide/core/testing";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { showActions, showReducer } from "./show-slice.ts";

const HASH = "ab".repeat(32);
const opened = showReducer(
  undefined,
  showActions.opened({ id: "show", revision: 1, document: newShowDocument("Regatta"), media: {} }),
);

describe("history", () => {
  it("gives back the very same documents on undo and redo, after any sequence of edits", () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 60 }), (edits) => {
        const documents = [present(opened.document)];
        let state = opened;
        for (const edit of edits) {
          state = showReducer(state, showActions.edited(edit.apply(present(state.document))));
          if (state.document !== documents.at(-1)) documents.push(present(state.document));
        }
        const texts = documents.map((document) => JSON.stringify(document));
        for (let at = documents.length - 2; at >= 0; at--) {
          state = showReducer(state, showActions.undone());
          expect(state.document).toBe(documents[at]);
          expect(JSON.stringify(state.document)).toBe(texts[at]);
        }
        for (const after of documents.slice(1)) {
          state = showReducer(state, showActions.redone());
          expect(state.document).toBe(after);
        }
        expect(state.future).toEqual([]);
      }),
      { numRuns: propertyRuns },
    );
  });

  it("takes edits of one tag together as one step, but not across another edit", () => {
    let state = opened;
    const add = (id: string, tag: string | null): void => {
      const slide = newSlide({ id, sha256: HASH, fileName: `${id}.jpg` });
      const edited = insertSlides(present(state.document), [slide], { passageId: "p1", beforeId: null });
      state = showReducer(state, showActions.edited(edited, tag));
    };
    add("a", "drop 1");
    add("b", "drop 1");
    add("c", null);
    add("d", "drop 1");
    expect(state.past).toHaveLength(3);
    for (const left of [3, 2, 0]) {
      state = showReducer(state, showActions.undone());
      expect(present(state.document).slides).toHaveLength(left);
    }
  });

  it("knows whether what was saved is still the newest, and waits for a choice in a conflict", () => {
    const first = { ...present(opened.document), title: "First" };
    const second = { ...present(opened.document), title: "Second" };
    let state = showReducer(opened, showActions.edited(first));
    state = showReducer(state, showActions.edited(second));
    state = showReducer(state, showActions.savedAs({ revision: 2, document: first }));
    expect([state.revision, state.saveState.kind]).toEqual([2, "unsaved"]);
    state = showReducer(state, showActions.savedAs({ revision: 3, document: second }));
    expect(state.saveState.kind).toBe("saved");
    const newest = { id: "show", revision: 9, document: { ...second, client: "Ada" }, media: {} };
    state = showReducer(state, showActions.saveStateChanged({ kind: "conflict", conflicts: [], newest }));
    state = showReducer(state, showActions.undone());
    expect(state.saveState.kind).toBe("conflict");
    state = showReducer(state, showActions.merged({ newest, document: { ...first, client: "Ada" } }));
    expect(state).toMatchObject({ revision: 9, base: newest.document, saveState: { kind: "unsaved" } });
  });

  it("undoes only what was done here after another window's edits came in", () => {
    const mine = { ...present(opened.document), title: "Mine" };
    const newest = { id: "show", revision: 2, document: { ...present(opened.document), client: "Ada" }, media: {} };
    let state = showReducer(opened, showActions.edited(mine));
    state = showReducer(state, showActions.merged({ newest, document: { ...mine, client: "Ada" } }));
    state = showReducer(state, showActions.undone());
    expect(state.document).toMatchObject({ title: present(opened.document).title, client: "Ada" });
  });

  it("takes over another window's document as a step that can be undone", () => {
    const mine = { ...present(opened.document), title: "Mine" };
    const other = { id: "show", revision: 7, document: { ...mine, title: "Other" }, media: {} };
    let state = showReducer(showReducer(opened, showActions.edited(mine)), showActions.followed(other));
    expect(state).toMatchObject({ revision: 7, document: { title: "Other" }, saveState: { kind: "saved" } });
    state = showReducer(state, showActions.undone());
    expect(state).toMatchObject({ revision: 7, document: { title: "Mine" }, saveState: { kind: "unsaved" } });
    expect(showReducer(state, showActions.followed({ ...other, id: "another show" }))).toBe(state);
  });
});
