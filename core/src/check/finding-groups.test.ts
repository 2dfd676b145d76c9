import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { itemAt } from "../presence/index.ts";
import { newShowDocument, newSlide } from "../show/index.ts";
import type { Finding } from "./finding.ts";
import { applyFixes, findingGroups, groupFixes, groupText } from "./finding-groups.ts";
import { applyFix } from "./fix.ts";

const place = { slotIndex: 0, seconds: null, outputs: [] };
const short = (slideId: string, seconds = 2): Finding => ({
  ...{ kind: "slide-short", severity: "warning", place: { ...place, slideId } },
  values: { slide: slideId, seconds: 1, leastSeconds: 2 },
  fixes: [
    { kind: "stand", slideId, seconds: seconds },
    { kind: "leaveOut", slideId },
  ],
});
const empty = (slideId: string): Finding => ({
  ...{ kind: "words-empty", severity: "warning", place: { ...place, slideId } },
  values: { slide: slideId, isCard: false },
  fixes: [],
});
const show = {
  ...newShowDocument("Regatta"),
  slides: ["a", "b", "c"].map((id) => newSlide({ id, sha256: "a".repeat(64), fileName: `${id}.jpg` })),
};

describe("findings in groups", () => {
  it("lose none, keep their order, and never mix kinds or weights", () => {
    const any = fc
      .tuple(fc.constantFrom("a", "b", "c"), fc.boolean(), fc.constantFrom("hint", "warning"))
      .map(([id, isShort, severity]): Finding => ({ ...(isShort ? short(id) : empty(id)), severity }));
    fc.assert(
      fc.property(fc.array(any), (findings) => {
        const groups = findingGroups(findings);
        expect(groups.flatMap((group) => group.findings)).toHaveLength(findings.length);
        for (const { kind, severity, findings: own } of groups) {
          expect(own).toEqual(findings.filter((one) => one.kind === kind && one.severity === severity));
          expect(groups.filter((group) => group.kind === kind && group.severity === severity)).toHaveLength(1);
        }
      }),
    );
  });

  it("offer what all of them offer, as one edit that does what their own buttons do", () => {
    const [group] = findingGroups([short("a", 2), short("b", 3), short("c", 4)]);
    const fixes = groupFixes(itemAt([group], 0) ?? { kind: "slide-short", severity: "hint", findings: [] });
    expect(fixes.map(({ kind }) => kind)).toEqual(["stand", "leaveOut"]);
    const all = itemAt(fixes, 0).fixes;
    expect(applyFixes(show, all)).toEqual(all.reduce(applyFix, show));
    expect(applyFixes(show, all).slides.map(({ length }) => length?.seconds)).toEqual([2, 3, 4]);
    const mixed = findingGroups([short("a"), { ...short("b"), fixes: [{ kind: "leaveOut", slideId: "b" }] }]);
    expect(groupFixes(itemAt(mixed, 0)).map(({ kind }) => kind)).toEqual(["leaveOut"]);
    expect(groupFixes(itemAt(findingGroups([short("a")]), 0))).toEqual([]);
    // A slide that is shown again offers nothing there: it is put right with its first showing.
    const again = findingGroups([short("a"), { ...short("a"), fixes: [] }, short("b")]);
    expect(groupFixes(itemAt(again, 0)).map(({ fixes: own }) => own.length)).toEqual([2, 2]);
    expect(groupText(itemAt(again, 0))).toBe("2 slides are seen too briefly");
  });

  it("are told in one and in many", () => {
    const nine = Array.from({ length: 9 }, (_, i) => short(`s${i}`));
    expect(groupText({ kind: "enlarged", findings: nine })).toBe("9 pictures look soft");
    expect(groupText({ kind: "enlarged", findings: [short("a")] })).toBe("1 picture looks soft");
    expect(groupText({ kind: "flashes", findings: [short("a"), short("b")] })).toBe("2 stretches flash too often");
  });
});
