import { existsSync, readFileSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { createRequire } from "node:module";
import path from "node:path";
import type { WordSheet } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import {
  type FontFile,
  type Fonts,
  filesForWords,
  fontError,
  HarfBuzzShaper,
  parseUnicodeRange,
} from "@humming-tide/core/words";

/**
 * The packages that film fonts come from (SIL Open Font License), and which of their parts are
 * used; null: all.
 */
const PACKAGES: readonly { readonly family: FontFile["family"]; readonly parts: readonly string[] | null }[] = [
  { family: "Cormorant Garamond", parts: null },
  { family: "EB Garamond", parts: null },
  { family: "Playfair Display", parts: null },
  { family: "Cinzel", parts: null },
  { family: "Josefin Sans", parts: null },
  { family: "Montserrat", parts: null },
  { family: "Oswald", parts: null },
  { family: "Noto Sans", parts: null },
  { family: "Great Vibes", parts: null },
  { family: "Dancing Script", parts: null },
  { family: "Noto Sans Hebrew", parts: ["hebrew"] },
  { family: "Noto Sans Arabic", parts: ["arabic"] },
  { family: "Noto Color Emoji", parts: ["0", "1", "2", "3", "4", "5", "6", "7", "8", "9", "10"] },
];
const FACES = [
  { weight: 400, italic: false },
  { weight: 700, italic: false },
  { weight: 400, italic: true },
  { weight: 700, italic: true },
] as const;
const resolve = createRequire(import.meta.url).resolve;

interface ShippedFont extends FontFile {
  readonly path: string;
}

let shipped: readonly ShippedFont[] | null = null;

/** All files of film fonts, the same for the page and for the export. */
export function filmFontFiles(): readonly ShippedFont[] {
  shipped ??= PACKAGES.flatMap(({ family, parts }) => {
    const name = family.toLowerCase().replaceAll(" ", "-");
    const folder = path.dirname(resolve(`@fontsource/${name}/package.json`));
    const ranges = JSON.parse(readFileSync(path.join(folder, "unicode.json"), "utf8")) as Record<string, string>;
    return Object.entries(ranges).flatMap(([key, range]) => {
      const part = key.replace(/[[\]]/g, "");
      if (parts && !parts.includes(part)) return [];
      return FACES.flatMap(({ weight, italic }): ShippedFont[] => {
        const file = `${name}-${part}-${weight}-${italic ? "italic" : "normal"}.woff`;
        const place = path.join(folder, "files", file);
        const face = { family, weight, italic };
        return existsSync(place) ? [{ name: file, ...face, ranges: parseUnicodeRange(range), path: place }] : [];
      });
    });
  });
  return shipped;
}

/** Film fonts for laying words out, loaded as they are needed; for one thread. */
export class FilmFonts implements Fonts {
  readonly files = filmFontFiles();
  readonly shaper = new HarfBuzzShaper();

  /** Loads what the words of a sheet need. Throws `bad-font`. */
  async preload(sheet: WordSheet): Promise<void> {
    for (const name of filesForWords(this, sheet)) {
      if (this.shaper.isLoaded(name)) continue;
      const file = present(this.files.find((other) => other.name === name));
      const bytes = await readFile(file.path).catch((cause: unknown) => {
        throw fontError("font-missing", { name }, { cause });
      });
      this.shaper.add(name, bytes);
    }
  }
}
