import type { ImageName } from "@humming-tide/core/picture";
import type { ContentStore } from "./content-store.ts";
import { GRAPHIC_FILES, graphicFolder, PICTURE_FILES } from "./picture-files.ts";

/** Where the file lies that an image of a film is read from. */
export function drawnFile(store: Pick<ContentStore, "derivedPath">, picture: string, of: ImageName["of"]): string {
  switch (of) {
    case "picture":
      return store.derivedPath(picture, PICTURE_FILES.working);
    case "fill":
      return store.derivedPath(picture, PICTURE_FILES.fill);
    case "graphic":
      return store.derivedPath(graphicFolder(picture), GRAPHIC_FILES.graphic);
  }
}
