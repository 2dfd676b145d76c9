/** Our own terms as they are explained on the screen; docs/language.md has the same meanings. */
export const TERMS = {
  passage: "a part of the show with its own pace and style",
  slide: "a picture, clip or card of the show, with its wishes",
  slot: "the stretch of the film in which a slide is seen",
  landing: "the beat on which a slot begins",
  doubt: "a stretch whose beats should be checked by ear",
  join: "a place where a song jumps, so that it becomes shorter or longer",
  hero: "a picture that gets more time and is left out last",
  tray: "pictures that are not in the film",
  variant: "a film of this show that was kept under a name",
} as const;
export type TermName = keyof typeof TERMS;

/** Terms by the screen on which a person meets them first, or needs them most. */
export const TERMS_OF_SCREEN: Readonly<Record<string, readonly TermName[]>> = {
  gather: ["slide", "passage", "hero"],
  listen: ["doubt", "join"],
  score: ["slot", "landing", "tray", "variant"],
};
