import type { WordSheet } from "@humming-tide/core/picture";
import { present } from "@humming-tide/core/presence";
import type { Fonts, HarfBuzzShaper } from "@humming-tide/core/words";
import { api } from "../api.ts";

/** The engine and its layout: loaded only once a film has words. */
type WordsRoom = typeof import("@humming-tide/core/words");

/**
 * Fonts for the words of films, fetched as they are needed; one set for the whole page. Emits
 * "arrived".
 */
class FilmFonts extends EventTarget {
  #room: WordsRoom | null = null;
  #fonts: (Fonts & { readonly shaper: HarfBuzzShaper }) | null = null;
  #isOpening = false;
  readonly #asked = new Set<string>();

  /** Null until the engine is there. */
  get fonts(): Fonts | null {
    return this.#fonts;
  }

  get room(): WordsRoom | null {
    return this.#room;
  }

  /** Makes sure that what a sheet needs is on its way. */
  preload(sheet: WordSheet): void {
    if (!this.#room || !this.#fonts) {
      if (!this.#isOpening) void this.#open();
      return;
    }
    for (const name of this.#room.filesForWords(this.#fonts, sheet)) {
      if (this.#asked.has(name)) continue;
      this.#asked.add(name);
      void this.#fetch(name);
    }
  }

  async #open(): Promise<void> {
    this.#isOpening = true;
    try {
      const [room, files] = await Promise.all([import("@humming-tide/core/words"), api.filmFonts()]);
      this.#fonts = { files: files, shaper: new room.HarfBuzzShaper() };
      this.#room = room;
      this.dispatchEvent(new Event("arrived"));
    } catch {
      // Asked for again the next time that it is needed.
      this.#isOpening = false;
    }
  }

  async #fetch(name: string): Promise<void> {
    try {
      present(this.#fonts).shaper.add(name, await api.filmFont(name));
      this.dispatchEvent(new Event("arrived"));
    } catch {
      this.#asked.delete(name);
    }
  }
}

export const filmFonts = new FilmFonts();
