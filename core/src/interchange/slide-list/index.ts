export { type AppliedSlideList, applySlideList } from "./apply-slide-list.ts";
export { readSlideList, type SlideListProblem, type SlideListRow } from "./read-slide-list.ts";
export { writeSlideList } from "./write-slide-list.ts";
