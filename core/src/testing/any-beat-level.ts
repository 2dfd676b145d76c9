import fc from "fast-check";
import type { BeatLevel } from "../grid/index.ts";

export const anyBeatLevel = fc.constantFrom<BeatLevel>("twice", "triple", "half", "third");
