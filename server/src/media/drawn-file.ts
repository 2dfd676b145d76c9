import type { ImageName } from "@humming-tide/core/picture";
import type { ContentStore } from "./content-store.ts";
import { COPY_FILE } from "./film-copies.ts";
import { GRAPHIC_FILES, graphicFolder, PICTURE_FILES } from "./picture-files.ts";

/**
 * Where the file lies that an image of a film is read from; `copies` are the folders of copies that
 * are drawn instead (film-copies.ts), by picture.
 */
export function drawnFile(
  store: Pick<ContentStore, "derivedPath">,
  picture: string,
  of: ImageName["of"],
  copies: ReadonlyMap<string, string> = NONE,
): string {
  switch (of) {
    case "picture": {
      const copy = copies.get(picture);
      if (copy !== undefined) return store.derivedPath(copy, COPY_FILE);
      return store.derivedPath(picture, PICTURE_FILES.working);
    }
    case "fill":
      return store.derivedPath(picture, PICTURE_FILES.fill);
    case "graphic":
      return store.derivedPath(graphicFolder(picture), GRAPHIC_FILES.graphic);
  }
}

const NONE: ReadonlyMap<string, string> = new Map();
