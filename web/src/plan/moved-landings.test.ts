import { present } from "@humming-tide/core/presence";
import { describe, expect, it } from "vitest";
import { movedLandings } from "./moved-landings.ts";
import { planSmallShow, smallShow } from "./testing/small-show.ts";

const show = smallShow(8);
const plan = planSmallShow(show);

describe("what a change has moved", () => {
  it("is told slide by slide, whatever the order, with what came and went", () => {
    expect(movedLandings(plan, plan)).toBeNull();
    const [first, second, third, ...rest] = show.slides;
    const swapped = planSmallShow({ ...show, slides: [present(first), present(third), present(second), ...rest] });
    expect(movedLandings(plan, swapped)).toEqual({
      moved: [
        { slideId: "s2", fromSeconds: 8, toSeconds: 4 },
        { slideId: "s1", fromSeconds: 4, toSeconds: 8 },
      ],
      stayed: 6,
      came: [],
      went: [],
    });
    const without = planSmallShow({
      ...show,
      slides: show.slides.map((s, i) => (i === 7 ? { ...s, rating: "out" } : s)),
    });
    expect(movedLandings(plan, without)).toMatchObject({ went: ["s7"], came: [] });
    expect(movedLandings(without, plan)).toMatchObject({ came: ["s7"], went: [] });
  });
});
