import { present } from "../../presence/index.ts";
import { namedPictures, namedTakes, type ShowDocument } from "../../show/index.ts";

/** Hexadecimal digits of a file's content that tell it from others of its name, at first. */
const LEAST_DIGITS = 6;

/**
 * What the files of a show are called in a folder that holds them all, by content: as they came in,
 * in letters that every file system takes. Two cameras both write "IMG_0001.jpg": files of
 * different content and one name get some digits of their content's SHA-256 behind it. So the name
 * of a file does not depend on the order of slides. Capitals make no difference. O(files).
 */
export function mediaNames(show: Pick<ShowDocument, "slides" | "songs" | "voices">): ReadonlyMap<string, string> {
  const files = new Map<string, string>();
  for (const { sha256, fileName } of [...namedPictures(show), ...show.songs, ...namedTakes(show)])
    if (!files.has(sha256)) files.set(sha256, plainFileName(fileName));
  const byName = new Map<string, string[]>();
  for (const [sha256, name] of files) {
    const same = byName.get(name.toLowerCase());
    if (same) same.push(sha256);
    else byName.set(name.toLowerCase(), [sha256]);
  }
  const taken = new Set(byName.keys());
  return new Map(
    [...files].map(([sha256, name]) => {
      if (present(byName.get(name.toLowerCase())).length === 1) return [sha256, name];
      for (let digits = LEAST_DIGITS; ; digits++) {
        const own = withDigits(name, sha256.slice(0, digits));
        if (digits < sha256.length && taken.has(own.toLowerCase())) continue;
        taken.add(own.toLowerCase());
        return [sha256, own];
      }
    }),
  );
}

function withDigits(name: string, digits: string): string {
  const dot = name.lastIndexOf(".");
  return dot > 0 ? `${name.slice(0, dot)}-${digits}${name.slice(dot)}` : `${name}-${digits}`;
}

/** The last part of a path, without what a file system refuses; its ending stays. */
function plainFileName(fileName: string): string {
  const name = (fileName.split(/[\\/]/).at(-1) ?? "")
    .normalize("NFC")
    .replace(/[\p{C}<>:"|?*]+/gu, " ")
    .replace(/\s+/g, " ")
    .replace(/^[. ]+|[. ]+$/g, "");
  const dot = name.lastIndexOf(".");
  const ending = dot > 0 ? firstLetters(name.slice(dot), MOST_ENDING_LETTERS) : "";
  return `${firstLetters(name.slice(0, name.length - ending.length), MOST_LETTERS)}${ending}` || "file";
}

/** A letter may take four bytes, and file systems take names of 255. */
const MOST_LETTERS = 50;
const MOST_ENDING_LETTERS = 10;

const firstLetters = (text: string, count: number): string => [...text].slice(0, count).join("");
