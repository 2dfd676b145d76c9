import type { Ornament, PlannedLine, PlannedWords } from "../picture/index.ts";
import type { Letters, LineWishes, TitleSet, Words } from "../show/index.ts";
import { DEFAULT_WORDS, isHeading } from "./default-words.ts";
import { type SetFace, TITLE_SET_DESIGNS } from "./title-sets.ts";

/** What a person said of words, or of a caption, which has no letters of its own. */
export type WrittenWords = Pick<PlannedWords, "kind" | "text" | "place" | "size"> &
  Partial<Pick<Words, "letters" | "lines">>;

type Kind = PlannedWords["kind"];
const HAS_MAIN_LINE: ReadonlySet<Kind> = new Set(["title", "lower-third", "end"]);

/**
 * How words are written, line by line: the title set's faces, or the one font that was chosen, with
 * what the block and each of its lines do differently. O(lines).
 */
export function designWords(written: WrittenWords, style: Letters): PlannedWords {
  const { kind, text, place, size, letters, lines = [] } = written;
  const titleSet = letters?.titleSet ?? style.titleSet;
  const colour = letters?.colour ?? style.colour;
  const faces = facesOf(text.split("\n"), kind, titleSet, style);
  const outline = letters?.outline ?? style.outline;
  const backing = letters?.backing ?? style.backing;
  return {
    ...{ kind, text, place, size, colour },
    lines: faces.map((face, i) => lineOf({ ...face, colour }, lines[i])),
    align: letters?.align ?? null,
    lineSpacing: letters?.lineSpacing ?? 1,
    ornament: ornamentOf(kind, titleSet),
    outline: outline && outline.width > 0 ? outline : null,
    shadow: letters?.shadow ?? style.shadow,
    backing: backing && backing.strength > 0 ? backing : null,
    entrance: kind === "credits" ? "fade" : (letters?.entrance ?? style.entrance),
  };
}

/** A face for each line; `size` is what it has of the block's. */
function facesOf(lines: readonly string[], kind: Kind, titleSet: TitleSet | null, style: Letters): SetFace[] {
  const second = DEFAULT_WORDS[kind].second;
  const { font, weight, italic, spacing, capitals } = style;
  const own: SetFace = { font, weight, italic, spacing, capitals, size: 1 };
  const design = titleSet === null ? { main: own, second: own, body: own } : TITLE_SET_DESIGNS[titleSet];
  let isMainSet = false;
  return lines.map((line) => {
    if (kind === "credits") {
      const face = isHeading(line) ? design.second : design.body;
      return isHeading(line) ? { ...face, size: second * face.size } : face;
    }
    if (!HAS_MAIN_LINE.has(kind)) return design.body;
    const isMain = !isMainSet && line.trim() !== "";
    isMainSet ||= isMain;
    return isMain ? design.main : { ...design.second, size: second * design.second.size };
  });
}

function lineOf(line: PlannedLine, wishes: LineWishes | undefined): PlannedLine {
  if (!wishes) return line;
  return {
    font: wishes.font ?? line.font,
    weight: wishes.weight ?? line.weight,
    italic: wishes.italic ?? line.italic,
    spacing: wishes.spacing ?? line.spacing,
    capitals: wishes.capitals ?? line.capitals,
    colour: wishes.colour ?? line.colour,
    size: (wishes.size ?? 1) * line.size,
  };
}

function ornamentOf(kind: Kind, titleSet: TitleSet | null): Ornament {
  if (kind === "lower-third") return "side-rule";
  if (titleSet === null || (kind !== "title" && kind !== "end")) return "none";
  return TITLE_SET_DESIGNS[titleSet].ornament;
}
