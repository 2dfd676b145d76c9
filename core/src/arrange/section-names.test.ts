import { expect, it } from "vitest";
import { sectionNames } from "./index.ts";

it("sections that come again are numbered", () => {
  const named = (labels: string) => sectionNames([...labels].map((label) => ({ label }))).join(", ");
  expect(named("ABABCB")).toBe("A 1, B 1, A 2, B 2, C, B 3");
  expect(named("A")).toBe("A");
  expect(named("")).toBe("");
});
