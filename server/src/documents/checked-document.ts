import { createHash } from "node:crypto";
import { deflateSync } from "node:zlib";
import { drawnPicture } from "@humming-tide/core/picture";
import {
  filmText,
  hasPicture,
  namedGraphics,
  namedPictures,
  namedTakes,
  posterSlide,
  SHOW_DOCUMENT_VERSION,
  type ShowDocument,
} from "@humming-tide/core/show";

/** What the shelf shows of a document, so that no document is read for it. */
export interface DocumentSummary {
  /** Of the document: one of another version is summed up again. */
  readonly version: number;
  readonly title: string;
  readonly event: string;
  readonly date: string | null;
  readonly client: string;
  readonly pictureCount: number;
  readonly slideCount: number;
  /** Name of the poster as it is drawn (core/picture); null without pictures. */
  readonly poster: string | null;
  readonly songs: readonly NamedMedium[];
}

export interface NamedMedium {
  readonly sha256: string;
  readonly fileName: string;
}

/** The media that a document names, each once. */
export interface DocumentMedia {
  /** What is seen: pictures, clips and graphics. */
  readonly seen: readonly NamedMedium[];
  readonly songs: readonly NamedMedium[];
  /** Recordings of voices. */
  readonly takes: readonly NamedMedium[];
  /** Files that stood on slides before. The film does not need them: they may be missing. */
  readonly former: readonly NamedMedium[];
}

/** A valid document in the forms that it is kept in. Plain data: it comes from another thread. */
export interface CheckedDocument {
  readonly text: string;
  /** The text, deflated: every revision is kept. */
  readonly packed: Uint8Array;
  readonly summary: DocumentSummary;
  /** The same for documents that make the same films. */
  readonly filmKey: string;
  readonly media: DocumentMedia;
}

/** `document` has been through its schema, which also gives its fields one order. */
export function checkedDocument(document: ShowDocument): CheckedDocument {
  const text = JSON.stringify(document);
  return {
    text,
    packed: deflateSync(text),
    summary: summaryOf(document),
    filmKey: filmKeyOf(document),
    media: mediaOf(document),
  };
}

export const mediaOf = (document: ShowDocument): DocumentMedia => ({
  seen: eachOnce([...namedPictures(document), ...namedGraphics(document)]),
  songs: eachOnce(document.songs),
  takes: eachOnce(namedTakes(document)),
  former: eachOnce(document.slides.flatMap(({ formerFiles }) => formerFiles)),
});

export const filmKeyOf = (document: ShowDocument): string =>
  `${SHOW_DOCUMENT_VERSION}:${createHash("sha256").update(filmText(document)).digest("base64url")}`;

function summaryOf(document: ShowDocument): DocumentSummary {
  const poster = posterSlide(document);
  return {
    version: document.version,
    title: document.title,
    event: document.event,
    date: document.date,
    client: document.client,
    pictureCount: document.slides.filter(hasPicture).length,
    slideCount: document.slides.length,
    poster: poster ? drawnPicture(poster.sha256, poster.turn) : null,
    songs: eachOnce(document.songs),
  };
}

const eachOnce = (media: readonly NamedMedium[]): NamedMedium[] => [
  ...new Map(media.map(({ sha256, fileName }) => [sha256, { sha256, fileName }])).values(),
];
