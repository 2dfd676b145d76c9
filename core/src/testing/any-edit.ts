import fc from "fast-check";
import { HummingTideError } from "../errors/index.ts";
import {
  addPassage,
  addSong,
  addTake,
  addVoice,
  applyTemplate,
  canGatherOnSlide,
  changeClipSound,
  changeMix,
  changePassage,
  changeSlides,
  changeSong,
  changeStyle,
  changeVoice,
  chooseSong,
  chooseTake,
  copyStyle,
  dividePassages,
  FIRST_STYLE,
  type Fill,
  gatherOnSlide,
  gatherPassage,
  insertSlides,
  joinPassage,
  lockLanding,
  lockOrder,
  lockPassageStart,
  movePassageStart,
  moveSlides,
  newCard,
  newSlide,
  newWords,
  orderSlides,
  removeSlides,
  removeSong,
  removeTake,
  removeVoice,
  type ShowDocument,
  type Slide,
  type SongChange,
  type StyleLevel,
  type StyleWishes,
  setShapeFill,
  setView,
  shiftClock,
  shiftPassage,
  shiftSlides,
  shiftSong,
  splitPassage,
  type TransitionWish,
  takeFromSlide,
  templateOf,
  turnSlides,
} from "../show/index.ts";
import type { Pace } from "../values/index.ts";

/** An edit that a person might make, with its name for failure messages. */
export interface NamedEdit {
  readonly name: string;
  apply(show: ShowDocument): ShowDocument;
}

const hashOf = (id: string): string => id.charCodeAt(0).toString(16).padStart(64, "0");

/**
 * Slides are named by letters, so that edits of a sequence meet the same slides again and again.
 */
const anyPace = fc.constantFrom<Pace>(
  { kind: "auto" },
  { kind: "music", fast: true },
  { kind: "accents", perPhrase: 4 },
);
const slideId = fc.constantFrom(..."abcdefghijklmnop");
const passageId = fc.constantFrom("p1", "p2", "p3", "p4");
const ids = fc.uniqueArray(slideId, { maxLength: 6 }).map((list) => new Set(list));
const voiceId = fc.constantFrom("voice 1", "voice 2", "voice 3");
const songId = fc.constantFrom("song 1", "song 2", "song 3");
const place = fc.record({ passageId, beforeId: fc.option(slideId) });
const name = fc.constantFrom("", "Crews", "Race", "Dance on the quay");

const edit = <Values>(
  kind: string,
  values: fc.Arbitrary<Values>,
  apply: (show: ShowDocument, values: Values) => ShowDocument,
): fc.Arbitrary<NamedEdit> =>
  values.map((chosen) => ({
    name: `${kind} ${fc.stringify(chosen)}`,
    apply(show) {
      try {
        return apply(show, chosen);
      } catch (error) {
        // A locked order refuses; the document stays as it was, as it does for a person.
        if (error instanceof HummingTideError && error.code === "order-locked") return show;
        throw error;
      }
    },
  }));

const length = fc.constantFrom({ unit: "seconds", count: 0.8 } as const, { unit: "beats", count: 2 } as const);
const anyFill = fc.constantFrom<Fill>({ kind: "auto" }, { kind: "crop" }, { kind: "colour", colour: "#102030" });
const filmShape = fc.constantFrom("16:9", "9:16");
const shapeOfFill = ({ shape }: { readonly shape: string }): string => shape;
const wishes: fc.Arbitrary<StyleWishes> = fc.record({
  transition: fc.option(
    fc.oneof(
      fc.constant({ kind: "cut" } as const),
      length.map((long) => ({ kind: "iris", length: long }) as const),
      length.map((long): TransitionWish => ({ kind: "vary", length: long, kinds: ["wipe", "push"] })),
    ),
  ),
  fill: fc.option(anyFill),
  shapeFills: fc.uniqueArray(fc.record({ shape: filmShape, fill: anyFill }), { maxLength: 2, selector: shapeOfFill }),
  move: fc.option(fc.constantFrom({ kind: "in", strength: 1, withMusic: true } as const)),
  letters: fc.option(fc.constantFrom({ ...FIRST_STYLE.letters, font: "Cinzel" } as const)),
  look: fc.option(fc.constantFrom({ kind: "warm", strength: 0.5, levels: 1 } as const)),
  edge: fc.option(fc.constantFrom({ kind: "mat", colour: "#ffffff", width: 0.05 } as const)),
  overlay: fc.option(fc.constantFrom({ kind: "grain", strength: 1 } as const)),
  graphic: fc.option(fc.constantFrom({ kind: "none" } as const)),
  captions: fc.option(fc.constantFrom({ shown: true, place: "top", size: 2 } as const)),
});
const level: fc.Arbitrary<StyleLevel> = fc.oneof(
  fc.constant({ kind: "show" } as const),
  passageId.map((id) => ({ kind: "passage", passageId: id }) as const),
  ids.map((slideIds) => ({ kind: "slides", slideIds }) as const),
);
const share = fc.integer({ min: 0, max: 100 }).map((percent) => percent / 100);
const view = fc.record({ centre: fc.record({ x: share, y: share }), zoom: fc.constantFrom(0.5, 1, 1.25) });

/** Any edit of the show's document, each kind about as often. */
export const anyEdit: fc.Arbitrary<NamedEdit> = fc.oneof(
  edit("insert", fc.tuple(fc.uniqueArray(slideId, { maxLength: 5 }), place), (show, [list, at]) =>
    insertSlides(
      show,
      list.map((id) => newSlide({ id, sha256: hashOf(id), fileName: `${id}.jpg` })),
      at,
    ),
  ),
  edit("card", fc.tuple(slideId, place), (show, [id, at]) => insertSlides(show, [newCard(id, [], "#102030", 6)], at)),
  edit("gather on slide", ids, (show, which) =>
    canGatherOnSlide(show, which, () => false) ? gatherOnSlide(show, which) : show,
  ),
  edit("take from slide", fc.tuple(slideId, fc.nat(5), slideId), (show, [id, index, newId]) =>
    takeFromSlide(show, id, index, newId),
  ),
  edit("remove", ids, removeSlides),
  edit("voice", fc.tuple(fc.constantFrom("v", "w"), fc.option(slideId)), (show, [file, id]) =>
    addVoice(show, { sha256: hashOf(file), fileName: `${file}.wav` }, { slideId: id, seconds: 1 }),
  ),
  edit("take", fc.tuple(voiceId, fc.constantFrom("v", "w", "x")), (show, [id, file]) =>
    addTake(show, id, { sha256: hashOf(file), fileName: `${file}.wav` }),
  ),
  edit("choose take", fc.tuple(voiceId, fc.nat(3)), (show, [id, take]) => chooseTake(show, id, take)),
  edit("remove take", fc.tuple(voiceId, fc.nat(3)), (show, [id, take]) => removeTake(show, id, take)),
  edit("remove voice", voiceId, removeVoice),
  edit("voice level", fc.tuple(voiceId, fc.constantFrom(-6, 0)), (show, [id, decibels]) =>
    changeVoice(show, id, { decibels, musicLevel: [{ seconds: 1, decibels: -9 }] }),
  ),
  edit("clip sound", fc.tuple(ids, fc.constantFrom("muted", "beside", "speech")), (show, [which, kind]) =>
    changeClipSound(show, which, { kind }),
  ),
  edit("loudness", fc.option(fc.constantFrom(-14, -23)), (show, targetLufs) => changeMix(show, { targetLufs })),
  edit("style", fc.tuple(level, wishes), (show, [where, what]) => changeStyle(show, where, what)),
  edit("fill in a shape", fc.tuple(level, filmShape, fc.option(anyFill)), (show, [where, shape, fill]) =>
    setShapeFill(show, where, shape, fill),
  ),
  edit("copy style", fc.tuple(slideId, ids), (show, [from, to]) => copyStyle(show, from, to)),
  edit(
    "view",
    fc.tuple(slideId, filmShape, fc.option(fc.record({ start: view, end: view }))),
    (show, [id, shape, views]) => setView(show, id, shape, views),
  ),
  edit("move", fc.tuple(ids, place), (show, [which, at]) => moveSlides(show, which, at)),
  edit("shift", fc.tuple(ids, fc.integer({ min: -9, max: 9 })), (show, [which, steps]) =>
    shiftSlides(show, which, steps),
  ),
  edit(
    "order",
    fc.tuple(
      fc.option(ids),
      fc.oneof(
        fc.constant({ kind: "name" as const }),
        fc.integer().map((seed) => ({ kind: "shuffle" as const, seed })),
        fc.nat(30).map((salt) => ({
          kind: "time" as const,
          secondsOf: ({ id }: { id: string }) => (id === "c" ? null : (id.charCodeAt(0) * salt) % 13),
        })),
      ),
    ),
    (show, [which, order]) => orderSlides(show, which, order),
  ),
  edit(
    "change",
    fc.tuple(
      ids,
      fc.oneof(
        fc.record({ rating: fc.constantFrom("keep" as const, "maybe" as const, "out" as const) }),
        fc.record({ hero: fc.boolean() }),
        fc.record({ stays: fc.boolean() }),
        fc.record({ length: fc.option(fc.record({ seconds: fc.constantFrom(2, 5), locked: fc.boolean() })) }),
        fc.record({ clip: fc.constantFrom(null, { inSeconds: 1, outSeconds: 4, momentSeconds: null, speed: 2 }) }),
        fc.record({
          words: fc.constantFrom<Slide["words"]>([], [newWords("title", "Race\nnight")]),
        }),
        fc.record({ caption: fc.string({ unit: "grapheme", maxLength: 20 }) }),
      ),
    ),
    (show, [which, change]) => changeSlides(show, which, change),
  ),
  edit("turn", fc.tuple(ids, fc.integer({ min: -5, max: 5 })), (show, [which, turns]) =>
    turnSlides(show, which, turns),
  ),
  edit("lock", fc.tuple(slideId, songId, fc.option(fc.nat(300))), (show, [id, song, seconds]) =>
    show.songs.some((other) => other.id === song)
      ? lockLanding(show, id, seconds === null ? null : { songId: song, seconds, turn: 0 }, id < "h")
      : show,
  ),
  edit("split", fc.tuple(slideId, name), (show, [id, title]) => splitPassage(show, id, title)),
  edit("join", passageId, joinPassage),
  edit("add passage", fc.tuple(passageId, name), (show, [id, title]) => addPassage(show, id, title)),
  edit("gather passage", fc.tuple(ids, name), (show, [which, title]) => gatherPassage(show, which, title)),
  edit("name passage", fc.tuple(passageId, name), (show, [id, title]) => changePassage(show, id, { name: title })),
  edit("pace passage", fc.tuple(passageId, anyPace), (show, [id, pace]) => changePassage(show, id, { pace })),
  edit("lock passage", fc.tuple(passageId, songId, fc.option(fc.nat(300))), (show, [id, song, seconds]) =>
    show.songs.some((other) => other.id === song)
      ? lockPassageStart(show, id, seconds === null ? null : { songId: song, seconds, turn: 0 })
      : show,
  ),
  edit("move passage start", fc.tuple(passageId, fc.option(slideId)), (show, [id, at]) =>
    movePassageStart(show, id, at),
  ),
  edit("shift passage", fc.tuple(passageId, fc.integer({ min: -3, max: 3 })), (show, [id, places]) =>
    shiftPassage(show, id, places),
  ),
  edit("divide", fc.array(fc.record({ slideId, name }), { maxLength: 4 }), dividePassages),
  edit("lock order", fc.boolean(), lockOrder),
  edit("shift clock", fc.tuple(name, fc.integer({ min: -9000, max: 9000 })), (show, [camera, seconds]) =>
    shiftClock(show, camera, seconds),
  ),
  edit("song", fc.option(slideId), (show, id) =>
    chooseSong(show, id === null ? null : { sha256: hashOf(id), fileName: `${id}.wav` }),
  ),
  edit("add song", slideId, (show, id) => addSong(show, { sha256: hashOf(id), fileName: `${id}.wav` })),
  edit("remove song", songId, removeSong),
  edit("shift song", fc.tuple(songId, fc.integer({ min: -3, max: 3 })), (show, [id, places]) =>
    shiftSong(show, id, places),
  ),
  edit(
    "change song",
    fc.tuple(
      songId,
      fc.oneof<fc.Arbitrary<SongChange>[]>(
        fc.record({ trimStartSeconds: fc.nat(100), trimEndSeconds: fc.option(fc.nat(300), { nil: null }) }),
        fc.record({
          joins: fc.array(fc.record({ fromSeconds: fc.nat(300), toSeconds: fc.nat(300) }), { maxLength: 3 }),
        }),
        fc.record({
          entry: fc.constantFrom({ kind: "gap" as const, seconds: 2 }, { kind: "crossfade" as const, bars: 4 }),
        }),
        fc.constant<SongChange>({ gridEdits: [{ kind: "twice" }] }),
        fc.constant<SongChange>({
          markers: [{ id: "m", seconds: 3, name: "Prize", kind: "cut", origin: "tapped" }],
        }),
      ),
    ),
    (show, [id, change]) => changeSong(show, id, change),
  ),
  edit("template", fc.record({ width: fc.constantFrom(1080, 1920) }), (show, { width }) =>
    applyTemplate(show, { ...templateOf(show), size: { width, height: 1080 } }),
  ),
);
