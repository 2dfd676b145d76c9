import { itemAt } from "@humming-tide/core/presence";
import type { Passage, Slide, SlidePlace } from "@humming-tide/core/show";

/** Pixels of the contact sheet. */
export const CELL_WIDTHS = { small: 104, medium: 148, large: 236 } as const;
const GAP = 12;
const CAPTION_HEIGHT = 42;
const PASSAGE_HEIGHT = 52;
const EMPTY_HEIGHT = 74;

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

type SheetRow =
  | {
      readonly kind: "passage";
      readonly y: number;
      readonly height: number;
      readonly passage: Passage;
      /** Those of its slides that are shown. */
      readonly slides: readonly Slide[];
    }
  | { readonly kind: "empty"; readonly y: number; readonly height: number; readonly passage: Passage }
  | {
      readonly kind: "slides";
      readonly y: number;
      readonly height: number;
      readonly passageId: string;
      /** Place of the first among the shown slides. */
      readonly from: number;
      readonly slides: readonly Slide[];
    };

export interface SheetLayout {
  readonly columns: number;
  readonly cellWidth: number;
  /** Of the picture itself, above its caption. */
  readonly imageHeight: number;
  readonly rows: readonly SheetRow[];
  readonly height: number;
  /** Shown slides in order, and where each is among them. */
  readonly shown: readonly Slide[];
  readonly placeOf: ReadonlyMap<string, number>;
  /** Row index of each shown slide. */
  readonly rowOf: readonly number[];
}

/**
 * Lays the shown slides out in rows, passage after passage, under the passages' headings (none for
 * a show of one passage without a name). Every place is known by arithmetic alone, so that only
 * rows in sight need to exist.
 */
export function layOutSheet(
  passages: readonly Passage[],
  slides: readonly Slide[],
  width: number,
  wantedCell: number,
): SheetLayout {
  const columns = Math.max(1, Math.floor((width + GAP) / (wantedCell + GAP)));
  const cellWidth = Math.max(40, (width - GAP * (columns - 1)) / columns);
  const imageHeight = Math.round(cellWidth * 0.75);
  const rowHeight = imageHeight + CAPTION_HEIGHT + GAP;
  const headings = passages.length > 1 || passages[0]?.name !== "";
  const rows: SheetRow[] = [];
  const shown: Slide[] = [];
  const rowOf: number[] = [];
  let y = 0;
  for (const passage of passages) {
    const own = slides.filter((slide) => slide.passageId === passage.id);
    if (headings) {
      rows.push({ kind: "passage", y, height: PASSAGE_HEIGHT, passage, slides: own });
      y += PASSAGE_HEIGHT;
    }
    if (own.length === 0 && headings) {
      rows.push({ kind: "empty", y, height: EMPTY_HEIGHT, passage });
      y += EMPTY_HEIGHT;
    }
    for (let from = 0; from < own.length; from += columns) {
      const part = own.slice(from, from + columns);
      for (const slide of part) {
        rowOf.push(rows.length);
        shown.push(slide);
      }
      rows.push({
        kind: "slides",
        y,
        height: rowHeight,
        passageId: passage.id,
        from: shown.length - part.length,
        slides: part,
      });
      y += rowHeight;
    }
  }
  const placeOf = new Map(shown.map((slide, place) => [slide.id, place]));
  return { columns, cellWidth, imageHeight, rows, height: y, shown, placeOf, rowOf };
}

/** Where a shown slide's cell is on the sheet. */
function cellBox(layout: SheetLayout, place: number): Box {
  const row = itemAt(layout.rows, itemAt(layout.rowOf, place));
  const column = row.kind === "slides" ? place - row.from : 0;
  return { x: column * (layout.cellWidth + GAP), y: row.y, width: layout.cellWidth, height: row.height - GAP };
}

/** The slides whose cells a box touches, edges included. */
export function slidesIn(layout: SheetLayout, box: Box): string[] {
  return layout.shown
    .filter((_, place) => {
      const cell = cellBox(layout, place);
      return (
        cell.x <= box.x + box.width &&
        cell.x + cell.width >= box.x &&
        cell.y <= box.y + box.height &&
        cell.y + cell.height >= box.y
      );
    })
    .map(({ id }) => id);
}

/** Where slides dropped at a point go, and where the mark between pictures stands. */
export function dropPlace(layout: SheetLayout, x: number, y: number): { place: SlidePlace; mark: Box } | null {
  const row = layout.rows.findLast((candidate) => candidate.y <= y) ?? layout.rows[0];
  if (!row) return null;
  if (row.kind !== "slides") {
    // On a heading: to the beginning of its passage.
    const at = layout.rows.indexOf(row) + (row.kind === "passage" ? 1 : 0);
    const following = layout.rows[at];
    const first = following?.kind === "slides" ? itemAt(following.slides, 0) : null;
    const mark = { x: 0, y: row.y, width: 3, height: row.height - 4 };
    return { place: { passageId: row.passage.id, beforeId: first?.id ?? null }, mark };
  }
  const step = layout.cellWidth + GAP;
  const column = Math.max(0, Math.min(row.slides.length, Math.round((x + GAP / 2) / step)));
  const mark = {
    x: Math.max(0, column * step - GAP / 2 - 1.5),
    y: row.y,
    width: 3,
    height: layout.imageHeight,
  };
  const before = row.slides[column] ?? nextInPassage(layout, row.from + row.slides.length, row.passageId);
  return { place: { passageId: row.passageId, beforeId: before?.id ?? null }, mark };
}

function nextInPassage(layout: SheetLayout, place: number, passageId: string): Slide | undefined {
  const slide = layout.shown[place];
  return slide?.passageId === passageId ? slide : undefined;
}

export type SheetStep = "left" | "right" | "up" | "down" | "home" | "end";

/**
 * The place that a key leads to from another; up and down keep the column as well as the rows
 * allow.
 */
export function stepFrom(layout: SheetLayout, place: number, step: SheetStep): number {
  const last = layout.shown.length - 1;
  switch (step) {
    case "left":
      return Math.max(0, place - 1);
    case "right":
      return Math.min(last, place + 1);
    case "home":
      return 0;
    case "end":
      return last;
    case "up":
    case "down": {
      const direction = step === "up" ? -1 : 1;
      const from = itemAt(layout.rowOf, place);
      const here = itemAt(layout.rows, from);
      const column = here.kind === "slides" ? place - here.from : 0;
      for (let at = from + direction; at >= 0 && at < layout.rows.length; at += direction) {
        const row = itemAt(layout.rows, at);
        if (row.kind === "slides") return row.from + Math.min(column, row.slides.length - 1);
      }
      return place;
    }
  }
}

/** Ids from one place to another, both included, whichever comes first. */
export const rangeOf = (layout: SheetLayout, a: number, b: number): string[] =>
  layout.shown.slice(Math.min(a, b), Math.max(a, b) + 1).map(({ id }) => id);
