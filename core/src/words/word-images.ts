import type { DrawableImage, DrawnWords, Rectangle, Size, WordSheet } from "../picture/index.ts";
import { drawLaidWords, inkOf, type MakeCanvas } from "./draw-laid-words.ts";
import { type Fonts, type LaidWords, laySheet } from "./lay-words.ts";

/** Sheets kept drawn: those of the slides around the playhead, and what a film of quick captions needs. */
const KEPT_SHEETS = 12;

/**
 * Words drawn once and kept, so that a frame only lays images on. `canvas` makes a clear canvas of so many pixels. One instance is for one scale; the page makes a new one when its stage
 * gets another size.
 */
export class WordImages<Image> {
  readonly #fonts: Fonts;
  readonly #scale: number;
  readonly #canvas: MakeCanvas<Image>;
  readonly #drawn = new Map<string, (DrawnWords<Image> | null)[]>();
  readonly #laid = new Map<string, readonly LaidWords[]>();
  readonly #names = new WeakMap<WordSheet, string>();

  /** `scale`: pixels of the canvas a pixel of the film. */
  constructor(fonts: Fonts, scale: number, canvas: MakeCanvas<Image>) {
    this.#fonts = fonts;
    this.#scale = scale;
    this.#canvas = canvas;
  }

  /** Null while fonts are not loaded. */
  readonly get = (sheet: WordSheet, index: number, frame: Size): DrawnWords<Image> | null => {
    const name = this.#nameOf(sheet, frame);
    const laid = this.#laid.get(name) ?? laySheet(sheet, frame, this.#fonts);
    if (!laid) return null;
    const drawn = this.#drawn.get(name) ?? sheet.map(() => null);
    // Moved to the end: last used, last dropped.
    this.#laid.delete(name);
    this.#laid.set(name, laid);
    this.#drawn.delete(name);
    this.#drawn.set(name, drawn);
    for (const oldest of this.#drawn.keys()) {
      if (this.#drawn.size <= KEPT_SHEETS) break;
      this.#drawn.delete(oldest);
      this.#laid.delete(oldest);
    }
    drawn[index] ??= this.#draw(laid[index]!, sheet, index);
    return drawn[index];
  };

  #nameOf(sheet: WordSheet, frame: Size): string {
    let name = this.#names.get(sheet);
    if (name === undefined) {
      name = JSON.stringify(sheet);
      this.#names.set(sheet, name);
    }
    return `${frame.width} ${frame.height} ${name}`;
  }

  /** Words that stand are one image; of those that scroll each line is one. */
  #draw(laid: LaidWords, sheet: WordSheet, index: number): DrawnWords<Image> {
    const { kind, letters } = sheet[index]!;
    const parts =
      kind === "credits" ? laid.lines.map((line): LaidWords => ({ ...laid, lines: [line], bounds: line.box })) : [laid];
    const pieces = parts.flatMap((part) => {
      const box = this.#wholePixels(inkOf(part, letters));
      if (box.width < 1 || box.height < 1) return [];
      const canvas = this.#canvas(box.width, box.height);
      drawLaidWords(canvas, part, letters, { scale: this.#scale, x: -box.x, y: -box.y }, this.#canvas);
      const image: DrawableImage<Image> = { image: canvas.image, width: box.width, height: box.height };
      const inFilm = (length: number): number => length / this.#scale;
      const target: Rectangle = {
        x: inFilm(box.x),
        y: inFilm(box.y),
        width: inFilm(box.width),
        height: inFilm(box.height),
      };
      return [{ image, target }];
    });
    return { pieces, height: laid.bounds.height };
  }

  /** On the canvas, so that an image is laid on without being smoothed. */
  #wholePixels({ x, y, width, height }: Rectangle): Rectangle {
    const [left, top] = [Math.floor(x * this.#scale), Math.floor(y * this.#scale)];
    return {
      x: left,
      y: top,
      width: Math.ceil((x + width) * this.#scale) - left,
      height: Math.ceil((y + height) * this.#scale) - top,
    };
  }
}
