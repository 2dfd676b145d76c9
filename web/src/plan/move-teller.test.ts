import { itemAt } from "@humming-tide/core/presence";
import type { ShowDocument } from "@humming-tide/core/show";
import { describe, expect, it } from "vitest";
import { MoveTeller } from "./move-teller.ts";
import { planSmallShow, smallShow } from "./testing/small-show.ts";

const show = smallShow(4);
const swapped: ShowDocument = {
  ...show,
  slides: show.slides.with(1, itemAt(show.slides, 2)).with(2, itemAt(show.slides, 1)),
};
const plan = planSmallShow(show);
const swappedPlan = planSmallShow(swapped);

describe("what a change has moved", () => {
  it("is told once, and stays when a song, a picture or a voice becomes known after it", () => {
    const teller = new MoveTeller();
    expect(teller.movedBy(plan, show, true)).toBeNull();
    expect(teller.movedBy(swappedPlan, swapped, true)).toMatchObject({ stayed: 2 });
    expect(teller.movedBy(swappedPlan, swapped, true)).toBeUndefined();
  });

  it("is told while a drag goes on, and is gone where the drag is given up", () => {
    const teller = new MoveTeller();
    teller.movedBy(plan, show, true);
    expect(teller.movedBy(swappedPlan, swapped, false)).toMatchObject({ stayed: 2 });
    expect(teller.movedBy(plan, show, true)).toBeNull();
    expect(teller.movedBy(plan, show, true)).toBeUndefined();
  });
});
