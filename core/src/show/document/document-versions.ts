import { MOST_ACCENTS_PER_PHRASE } from "../../values/index.ts";
import { showError } from "../show-errors.ts";
import { AS_ITS_SLIDE, FIRST_CAPTIONS, FIRST_LAYOUT, FIRST_LOOKS } from "../style/index.ts";
import { FIRST_CLIENT_OFFER } from "./client-page.ts";
import { SHOW_DOCUMENT_VERSION, type ShowDocument, showDocumentSchema } from "./document.ts";
import { mainOutput } from "./outputs.ts";
import { FIRST_SONG_ID, newShowSong, type ShowSong } from "./show-song.ts";
import { FIRST_MIX } from "./voice.ts";

/**
 * One step a version: what a document of that version lacks for the next. A released step is never
 * edited.
 */
const STEPS: Readonly<Record<number, (old: Record<string, unknown>) => Record<string, unknown>>> = {
  /** Version 1 had no passages, ratings, captions and turns, and nothing about the event. */
  1: (old) => {
    const passageId = "p1";
    return {
      frameRate: { num: 25, den: 1 },
      size: { width: 1920, height: 1080 },
      transition: { kind: "dissolve", seconds: 0.8 },
      fill: { kind: "blur" },
      event: "",
      date: null,
      client: "",
      posterSlideId: null,
      passages: [{ id: passageId, name: "", transition: null }],
      orderLocked: false,
      clockOffsets: {},
      song: null,
      gridEdits: [],
      ...old,
      version: 2,
      slides: listOf(old["slides"]).map((slide) => ({
        passageId,
        caption: "",
        rating: "keep",
        hero: false,
        turn: 0,
        ...slide,
      })),
    };
  },
  /**
   * Version 2 had one song, whose corrections stood beside it, and locks that named seconds of it.
   */
  2: ({ song, gridEdits, slides, ...old }) => ({
    ...old,
    version: 3,
    songs: song
      ? [{ ...newShowSong({ id: FIRST_SONG_ID, ...(song as SongOfVersion2) }), gridEdits: gridEdits ?? [] }]
      : [],
    slides: (Array.isArray(slides) ? (slides as Record<string, unknown>[]) : []).map(
      ({ landingLockSeconds: seconds, ...slide }) => ({
        ...slide,
        landingLock: song && typeof seconds === "number" ? { songId: FIRST_SONG_ID, seconds, turn: 0 } : null,
      }),
    ),
  }),
  /**
   * Version 3 had one pace for the whole show, only "auto", "bar" or so many beats; slides had no
   * length of their own, and the song led.
   */
  3: ({ pace, passages, slides, ...old }) => ({
    ...old,
    version: 4,
    lead: { kind: "song" },
    pace: paceOfVersion3(pace),
    passages: listOf(passages).map((passage) => ({ pace: null, startLock: null, ...passage })),
    slides: listOf(slides).map((slide) => ({ length: null, stays: false, ...slide })),
  }),
  /**
   * In version 4 locked landings were beats, transitions landed with their middle, and clips were
   * shown from anywhere.
   */
  4: ({ slides, ...old }) => ({
    transitionLanding: { point: "middle", leadFrames: 0 },
    ...old,
    version: 5,
    slides: listOf(slides).map(({ landingLock: lock, ...slide }) => ({
      clip: null,
      ...slide,
      landingLock: lock && typeof lock === "object" ? { exact: false, ...lock } : null,
    })),
  }),
  /**
   * Version 5 had one fill, and cuts and dissolves for the show and its passages; nothing moved,
   * and clips ran as they were filmed.
   */
  5: ({ transition, fill, passages, slides, ...old }) => ({
    ...old,
    version: 6,
    style: styleOfVersion5(transition, fill),
    standsStill: false,
    seed: 1,
    passages: listOf(passages).map(({ transition: own, ...passage }) => ({
      ...passage,
      style: { ...AS_ABOVE_IN_VERSION_6, transition: transitionOfVersion5(own ?? null) },
    })),
    slides: listOf(slides).map(({ clip, ...slide }) => ({
      ...slide,
      clip: clip && typeof clip === "object" ? { speed: 1, ...clip } : null,
      style: AS_ABOVE_IN_VERSION_6,
      subject: null,
      views: [],
    })),
  }),
  /** Version 6 drew no words, looks and layouts: captions were kept, but not seen. */
  6: ({ style, passages, slides, ...old }) => ({
    ...old,
    version: 7,
    ...stylesOfVersion6({ style, passages }),
    slides: listOf(slides).map(({ style: own, ...slide }) => ({
      words: [],
      more: [],
      layout: FIRST_LAYOUT,
      ...slide,
      style: { ...NOTHING_NEW_WISHED, ...(own as object) },
    })),
  }),
  /** Version 7 had no voices, and clips were silent. Its films were as loud as their songs. */
  7: ({ slides, songs, ...old }) => ({
    voices: [],
    mix: { ...FIRST_MIX, evensSongs: false, targetLufs: null },
    ...old,
    version: 8,
    slides: listOf(slides).map((slide) => ({ sound: null, ...slide })),
    songs: listOf(songs).map((song) => ({ decibels: 0, muted: false, ...song })),
  }),
  /** Version 8 was exported as whatever was chosen at the time. */
  8: (old) => ({
    outputs: [mainOutput(old as unknown as Pick<ShowDocument, "size" | "frameRate">)],
    ...old,
    version: 9,
  }),
  /** Version 9 had no client page, and no output was a player. */
  9: (old) => ({ clientOffer: FIRST_CLIENT_OFFER, ...old, version: 10 }),
  /**
   * In version 10 a client page played the film itself, also where a download cost something: that
   * gave it away.
   */
  10: (old) => ({ ...old, ...offerOfVersion10(old), version: 11 }),
  /** Version 11 knew MP4, WebM and the player: a program of that time cannot read more. */
  11: (old) => ({ ...old, version: 12 }),
  /**
   * In version 12 one slide an accent meant every accent, sections were as they were heard, and
   * nothing was settled.
   */
  12: (old) => ({
    ...old,
    ...pacesOfVersion12(old),
    settledLocks: [],
    songs: listOf(old["songs"]).map((song) => ({ sections: null, ...song })),
    version: 13,
  }),
  /** Version 13 forgot a song that was replaced, and the locks that named places of it. */
  13: (old) => ({ formerSongs: [], ...old, version: 14 }),
  /** Slides did not remember the files that stood on them before. */
  14: (old) => ({
    ...old,
    version: 15,
    slides: listOf(old["slides"]).map((slide) => ({ formerFiles: [], ...slide })),
  }),
  /** In version 15 a fill was for films of all shapes. */
  15: (old) => ({ ...old, ...withShapeFills(old), version: 16 }),
  /** Version 16 had one font for all words of a slide. */
  16: (old) => ({ ...old, ...withLineLetters(old), version: 17 }),
  /** In version 17 client pages said no word of greeting. */
  17: (old) => ({ ...old, ...withGreeting(old), version: 18 }),
  /** In version 18 no picture lay over another. */
  18: (old) => ({ ...old, slides: listOf(old["slides"]).map(withLayoutOver), version: 19 }),
};

function withShapeFills({ style, passages, slides }: Record<string, unknown>): Record<string, unknown> {
  return { style: withNoShapeFills(style), passages: allStyled(passages), slides: allStyled(slides) };
}
const withNoShapeFills = (style: unknown): object => ({ shapeFills: [], ...(style as object) });
const allStyled = (owners: unknown): Record<string, unknown>[] =>
  listOf(owners).map((one) => ({ ...one, style: withNoShapeFills(one["style"]) }));

/** Words stay as they were: every line in the one font that was chosen. */
function withLineLetters({ style, passages, slides }: Record<string, unknown>): Record<string, unknown> {
  return {
    style: withOneFont(style),
    passages: listOf(passages).map((passage) => ({ ...passage, style: withOneFont(passage["style"]) })),
    slides: listOf(slides).map(withPlainWords),
  };
}

const withGreeting = ({ clientOffer }: Record<string, unknown>): Record<string, unknown> =>
  clientOffer && typeof clientOffer === "object" ? { clientOffer: { greeting: "", ...clientOffer } } : {};

function withOneFont(style: unknown): unknown {
  if (!style || typeof style !== "object") return style;
  const { letters, ...rest } = style as Record<string, unknown>;
  return { ...rest, letters: letters ? { ...ONE_FONT, ...letters } : null };
}

const ONE_FONT = { titleSet: null, italic: false, spacing: 0, capitals: "as-written", entrance: "fade" };

const withPlainWords = ({ style, words, ...slide }: Record<string, unknown>): Record<string, unknown> => ({
  ...slide,
  style: withOneFont(style),
  words: listOf(words).map((block) => ({ letters: AS_ITS_SLIDE, lines: [], ...block })),
});

const withLayoutOver = ({ layout, ...slide }: Record<string, unknown>): Record<string, unknown> => ({
  ...slide,
  layout: layout && typeof layout === "object" ? { place: "bottom-right", size: 0.42, ...layout } : layout,
});

/** Templates up to version 18 of shows. */
function templateOfVersion18(template: unknown): unknown {
  if (!template || typeof template !== "object") return template;
  const { style, passages } = template as Record<string, unknown>;
  return {
    ...template,
    ...withGreeting(template as Record<string, unknown>),
    style: withOneFont(style),
    passages: listOf(passages).map(({ opening, closing, ...passage }) => ({
      ...passage,
      style: withOneFont(passage["style"]),
      opening: listOf(opening).map(withPlainWords).map(withLayoutOver),
      closing: listOf(closing).map(withPlainWords).map(withLayoutOver),
    })),
  };
}

/** Templates up to version 15 of shows; cards on passages came late. */
function templateOfVersion15(template: unknown): unknown {
  if (!template || typeof template !== "object") return template;
  const { style, passages } = template as Record<string, unknown>;
  return {
    ...template,
    style: withNoShapeFills(style),
    passages: allStyled(passages).map(({ opening, closing, ...passage }) => ({
      ...passage,
      opening: allStyled(opening),
      closing: allStyled(closing),
    })),
  };
}

/** Of shows and templates alike. */
function pacesOfVersion12({ pace, passages }: Record<string, unknown>): Record<string, unknown> {
  const withStrength = (own: unknown): unknown =>
    own && typeof own === "object" && "kind" in own && own.kind === "accents"
      ? { perPhrase: MOST_ACCENTS_PER_PHRASE, ...own }
      : own;
  return {
    pace: withStrength(pace),
    passages: listOf(passages).map(({ pace: own, ...passage }) => ({ ...passage, pace: withStrength(own) })),
  };
}

const offerOfVersion10 = ({ clientOffer }: Record<string, unknown>): Record<string, unknown> =>
  clientOffer && typeof clientOffer === "object"
    ? { clientOffer: { pageFilm: FIRST_CLIENT_OFFER.pageFilm, ...clientOffer } }
    : {};

const AS_ABOVE_IN_VERSION_6 = { transition: null, fill: null, move: null };
const NOTHING_NEW_WISHED = { letters: null, captions: null, look: null, edge: null, overlay: null, graphic: null };

const LETTERS_OF_VERSION_7 = {
  font: "Josefin Sans",
  weight: 400,
  colour: "#fff8ec",
  outline: null,
  shadow: 0.6,
  backing: null,
  fade: { unit: "beats", count: 1 },
};

/** Films of before look as they did until somebody asks for their captions. */
const stylesOfVersion6 = ({ style, passages }: Record<string, unknown>): Record<string, unknown> => ({
  style: {
    letters: LETTERS_OF_VERSION_7,
    captions: { ...FIRST_CAPTIONS, shown: false },
    ...FIRST_LOOKS,
    ...(style as object),
  },
  passages: listOf(passages).map(({ style: own, ...passage }) => ({
    ...passage,
    style: { ...NOTHING_NEW_WISHED, ...(own as object) },
  })),
});

/** A template of version 6 knew no words and looks. */
function templateOfVersion6(template: unknown): unknown {
  if (!template || typeof template !== "object") return template;
  const { style, passages, ...rest } = template as Record<string, unknown>;
  const { passages: styled, ...styles } = stylesOfVersion6({ style, passages });
  return {
    ...rest,
    ...styles,
    ...offerOfVersion10(rest),
    ...pacesOfVersion12({ pace: rest["pace"], passages: styled }),
  };
}

/** A template of any version that this program ever wrote, as the newest. */
export const newestTemplate = (template: unknown): unknown =>
  templateOfVersion18(templateOfVersion15(templateOfVersion6(templateOfVersion5(template))));

/** The style of a show of version 5: one transition, one fill; pictures stood still. */
const styleOfVersion5 = (transition: unknown, fill: unknown): Record<string, unknown> => ({
  transition: transitionOfVersion5(transition),
  fill,
  move: { kind: "still", strength: 0.5, withMusic: false },
});

/** Dissolves had seconds. */
function transitionOfVersion5(transition: unknown): unknown {
  if (!transition || typeof transition !== "object" || !("seconds" in transition)) return transition;
  const { seconds, ...rest } = transition;
  return { ...rest, length: { unit: "seconds", count: seconds } };
}

/** A template of version 5 had transition and fill where the style is now. */
function templateOfVersion5(template: unknown): unknown {
  if (!template || typeof template !== "object" || "style" in template) return template;
  const { transition, fill, passages, ...rest } = template as Record<string, unknown>;
  return {
    ...rest,
    style: styleOfVersion5(transition, fill),
    passages: listOf(passages).map(({ transition: own, ...passage }) => ({
      ...passage,
      style: { ...AS_ABOVE_IN_VERSION_6, transition: transitionOfVersion5(own) },
    })),
  };
}

const listOf = (value: unknown): Record<string, unknown>[] =>
  Array.isArray(value) ? (value as Record<string, unknown>[]) : [];

/** "bar" was one bar. Templates of that time hold such paces too. */
export function paceOfVersion3(pace: unknown): unknown {
  return (pace as { kind?: unknown } | undefined)?.kind === "bar" ? { kind: "bars", count: 1 } : pace;
}

type SongOfVersion2 = Pick<ShowSong, "sha256" | "fileName">;

/**
 * Reads a document of any version that this program ever wrote, as the newest. Throws
 * `document-too-new` for one of a later program, and what Zod throws for anything that is no
 * document.
 */
export function readShowDocument(stored: unknown): ShowDocument {
  let document = stored as Record<string, unknown>;
  for (;;) {
    const version = Number(document?.["version"]);
    if (version > SHOW_DOCUMENT_VERSION) {
      throw showError("document-too-new", { version, newest: SHOW_DOCUMENT_VERSION });
    }
    const step = STEPS[version];
    if (!step) return showDocumentSchema.parse(document);
    document = step(document);
  }
}
