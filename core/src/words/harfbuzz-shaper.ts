import { Blob, Buffer, Direction, Face, Feature, Font, shape } from "harfbuzzjs";
import { itemAt, valueFor } from "../presence/index.ts";
import { emAffine, outlineOf, paintsOf } from "./colour-glyph.ts";
import { seenPoints } from "./font-files.ts";
import type { FontExtent, Outline, Paint, ShapedGlyph, ShapedRun, Shaper } from "./shaper.ts";
import { openTypeOf } from "./woff.ts";

interface LoadedFont {
  readonly font: Font;
  readonly unitsPerEm: number;
  readonly points: ReadonlySet<number>;
  readonly hasColours: boolean;
  readonly outlines: Map<number, Outline>;
  readonly paints: Map<number, readonly Paint[] | null>;
}

/**
 * Shapes text by HarfBuzz (Unicode, OpenType): the same bytes give the same shapes on the page and
 * on the server. Fonts are added as they arrive and stay.
 */
export class HarfBuzzShaper implements Shaper {
  readonly #fonts = new Map<string, LoadedFont>();
  // Made with the shaper and not with this file: who imports the room must not load the engine.
  readonly #noLigatures = [new Feature("liga", 0), new Feature("clig", 0)];

  /** A WOFF file under its name. Throws `font-damaged`. */
  add(name: string, woff: Uint8Array): void {
    if (this.#fonts.has(name)) return;
    const face = new Face(new Blob(openTypeOf(woff)));
    this.#fonts.set(name, {
      font: new Font(face),
      unitsPerEm: face.upem,
      points: new Set(face.collectUnicodes()),
      hasColours: face.hasColorPaint(),
      outlines: new Map(),
      paints: new Map(),
    });
  }

  readonly isLoaded = (file: string): boolean => this.#fonts.has(file);

  readonly covers = (file: string, grapheme: string): boolean => {
    const loaded = this.#fonts.get(file);
    return loaded !== undefined && seenPoints(grapheme).every((point) => loaded.points.has(point));
  };

  readonly extent = (file: string): FontExtent => {
    const { font, unitsPerEm } = valueFor(this.#fonts, file);
    const { ascender, descender } = font.hExtents();
    return { ascent: ascender / unitsPerEm, descent: -descender / unitsPerEm };
  };

  readonly shape = (file: string, text: string, isRightToLeft: boolean, isSpaced: boolean): ShapedRun => {
    const loaded = valueFor(this.#fonts, file);
    const { font, unitsPerEm } = loaded;
    const buffer = new Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    buffer.setDirection(isRightToLeft ? Direction.RTL : Direction.LTR);
    shape(font, buffer, isSpaced ? this.#noLigatures : []);
    const positions = buffer.getGlyphPositions();
    let x = 0;
    const glyphs = buffer.getGlyphInfos().map(({ codepoint: glyph, cluster }, i): ShapedGlyph => {
      const { xAdvance, xOffset, yOffset } = itemAt(positions, i);
      const paints = loaded.hasColours ? this.#paints(loaded, glyph) : null;
      const placed = {
        outline: paints ? [] : this.#outline(loaded, glyph),
        paints,
        x: x + xOffset / unitsPerEm,
        y: -yOffset / unitsPerEm,
        advance: xAdvance / unitsPerEm,
        start: cluster,
      };
      x += placed.advance;
      return placed;
    });
    return { glyphs, width: x };
  };

  #outline({ font, unitsPerEm, outlines }: LoadedFont, glyph: number): Outline {
    let outline = outlines.get(glyph);
    if (!outline) {
      outline = outlineOf(font, glyph, emAffine(unitsPerEm));
      outlines.set(glyph, outline);
    }
    return outline;
  }

  #paints({ font, unitsPerEm, paints }: LoadedFont, glyph: number): readonly Paint[] | null {
    let found = paints.get(glyph);
    if (found === undefined) {
      found = paintsOf(font, glyph, unitsPerEm);
      paints.set(glyph, found);
    }
    return found;
  }
}
