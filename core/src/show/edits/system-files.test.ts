import { expect, it } from "vitest";
import { isSystemFile } from "../index.ts";

it("passes over what systems leave beside pictures, and nothing else", () => {
  const left = [
    "Thumbs.db",
    "card 1/THUMBS.DB",
    "desktop.ini",
    ".DS_Store",
    "a/.hidden/1.jpg",
    "__MACOSX/1.jpg",
    "x/@eaDir/1.jpg",
  ];
  expect(left.filter((path) => !isSystemFile(path))).toEqual([]);
  const meant = ["thumbs.jpg", "my thumbs.db.jpg", "desktop/1.jpg", "quay.v2/1.jpg", "eaDir/1.jpg"];
  expect(meant.filter(isSystemFile)).toEqual([]);
});
