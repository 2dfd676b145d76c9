import type { TransitionStyle } from "@humming-tide/core/picture";
import { themeColour } from "../../../ui/theme.ts";

/**
 * The shapes of landings as pictures in a style sheet, in the colours of the theme. One element a
 * shape, and its style worked out once: a thousand landings as drawings of their own made scrolling
 * stutter, in elements as well as on canvases.
 */

const picture = (attributes: string, content: string): string =>
  `url("data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${content}</svg>`)}")`;

const drop = (fill: string): string =>
  picture(
    'viewBox="0 0 12 16"',
    `<path d="M6 .6c2.600 4 5 6.500 5 9.500a5 5 0 0 1-10 0C1 7 3.400 4.600 6 .6z" fill="${fill}" stroke="${themeColour("lantern")}" stroke-width="1.500"/>`,
  );

/** Bar starts and better are full drops, lesser places hollow ones. */
const STRONG = 0.75;

/**
 * Outlines of transitions over their frames, in a box of 100 x 40: a tide for what flows, a slope
 * for what comes from a side, and so on.
 */
const OUTLINES = {
  tide: "M0 40C32 40 38 4 50 4s18 36 50 36",
  slope: "M0 40L62 4H78Q100 4 100 40",
  arch: "M0 40A50 36 0 0 1 100 40",
  valley: "M0 40V4Q50 76 100 4V40",
  spike: "M0 40Q46 36 50 4Q54 36 100 40",
} as const;

type DrawnKind = Exclude<TransitionStyle["kind"], "cut">;

const OUTLINE_OF: Readonly<Record<DrawnKind, keyof typeof OUTLINES>> = {
  dissolve: "tide",
  gradient: "tide",
  wipe: "slope",
  push: "slope",
  "page-turn": "slope",
  iris: "arch",
  zoom: "arch",
  dip: "valley",
  "light-flash": "spike",
};

/** The class of a transition's shape. */
export const transitionClass = (kind: DrawnKind): string => `score-${OUTLINE_OF[kind]}`;

/** The class of a landing: what it lands on, and whether it is held or was moved. */
export function landingClass(strength: number, locked: boolean, moved: boolean): string {
  const state = locked ? "locked" : moved ? "moved" : "plain";
  return `score-drop-${strength >= STRONG ? "full" : "hollow"}-${state}`;
}

/** The style sheet; to be made again when the theme changes. */
export function landingStyles(): string {
  const [ground, ink, lantern, heather] = (["ground", "ink", "lantern", "heather"] as const).map(themeColour) as [
    string,
    string,
    string,
    string,
  ];
  const outline = (path: string): string =>
    picture(
      'viewBox="0 0 100 40" preserveAspectRatio="none"',
      `<path d="${path}z" fill="${ground}" fill-opacity=".72"/><path d="${path}" fill="none" stroke="${ink}" stroke-width="1.400" vector-effect="non-scaling-stroke"/>`,
    );
  const lock = picture(
    'viewBox="0 0 14 14"',
    `<rect width="14" height="14" rx="3" fill="${heather}"/><path d="M4.500 6.500V5a2.500 2.500 0 0 1 5 0v1.500" fill="none" stroke="${ground}" stroke-width="1.600"/><rect x="3.200" y="6.300" width="7.600" height="5.200" rx="1" fill="${ground}"/>`,
  );
  const states = {
    plain: null,
    moved: `linear-gradient(${lantern} 0 0) center / 2px 100% no-repeat`,
    locked: `${lock} center 2px / 14px 14px no-repeat, linear-gradient(${heather} 0 0) center / 2px 100% no-repeat`,
  };
  const rules = Object.entries(OUTLINES).map(
    ([name, path]) => `.score-${name}{background:${outline(path)} 0 0 / 100% 100%}`,
  );
  for (const [form, fill] of [
    ["full", lantern],
    ["hollow", ground],
  ] as const) {
    for (const [state, layers] of Object.entries(states)) {
      const name = `.score-drop-${form}-${state}`;
      rules.push(`${name}{background:${drop(fill)} center bottom / 11px 15px no-repeat}`);
      // Over the whole picture, though only its foot takes hold of the landing.
      if (layers)
        rules.push(
          `${name}::before{content:"";position:absolute;inset:auto 0 0;height:var(--picture-height);` +
            `background:${layers};pointer-events:none}`,
        );
    }
  }
  return rules.join("\n");
}
