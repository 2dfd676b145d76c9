import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isDeeperThan } from "./json-depth.ts";

/** How deep a parsed value nests, by walking it. */
function depthOf(value: unknown): number {
  if (typeof value !== "object" || value === null) return 0;
  return 1 + Math.max(0, ...Object.values(value).map(depthOf));
}

describe("isDeeperThan", () => {
  it("agrees with a walk over the parsed value, whatever strings it holds", () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), (value) => {
        const text = new TextEncoder().encode(JSON.stringify(value));
        const depth = depthOf(value);
        expect([isDeeperThan(depth, text), depth === 0 || isDeeperThan(depth - 1, text)]).toEqual([false, true]);
      }),
    );
  });

  it("is not misled by brackets in strings, and stops early in a text of nothing but brackets", () => {
    expect(isDeeperThan(1, new TextEncoder().encode(String.raw`{"a[[\"[{":"[[\\"}`))).toBe(false);
    expect(isDeeperThan(64, new Uint8Array(10_000_000).fill(0x5b))).toBe(true);
  });
});
