import { expect, it } from "vitest";
import { putFirst } from "./follow-live.ts";

it("a newer state takes the place of the older one, and a new item comes first", () => {
  const items = [
    { id: "b", step: "Waiting" },
    { id: "a", step: "Done" },
  ];
  putFirst(items, { id: "a", step: "Gone" });
  putFirst(items, { id: "c", step: "Waiting" });
  expect(items.map(({ id, step }) => `${id} ${step}`)).toEqual(["c Waiting", "b Waiting", "a Gone"]);
});
