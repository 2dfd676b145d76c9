import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import { arrivalPlace, insertSlides } from "../edits/index.ts";
import { newWords, type Words } from "../style/index.ts";
import { newCard, newPassage, newShowDocument, newSlide, type ShowDocument, showDocumentSchema } from "./document.ts";
import { newShowSong } from "./show-song.ts";
import { applyTemplate, templateCards, templateOf, templateSchema } from "./template.ts";
import { factsAskedFor } from "./template-cards.ts";

const card = (id: string, kind: Words["kind"], text: string, passageId = "p1") => ({
  ...newCard(id, [newWords(kind, text)], "#102030", 6),
  passageId,
});
const picture = (id: string, passageId = "p1") =>
  newSlide({ id, sha256: "a".repeat(64), fileName: `${id}.jpg` }, passageId);

const finished: ShowDocument = {
  ...newShowDocument("Lantern regatta"),
  event: "Closing night, north quay",
  date: "2031-06-21",
  client: "The harbour master",
  passages: [newPassage("p1", "Arrival"), newPassage("p2", "Dance")],
  songs: [newShowSong({ id: "s1", sha256: "b".repeat(64), fileName: "Slow tide.mp3" })],
  slides: [
    card("c1", "title", "Lantern regatta\nClosing night, north quay, 21 June 2031"),
    picture("a"),
    card("c2", "text", "Then the race began"),
    picture("b"),
    card("c3", "text", "Lantern regattas are older than the quay", "p2"),
    picture("c", "p2"),
    card("c4", "credits", "For:\nThe harbour master\n\nMusic:\nSlow tide", "p2"),
    card("c5", "end", "Thank you\n21 June 2031", "p2"),
  ],
};
const template = templateSchema.parse(JSON.parse(JSON.stringify(templateOf(finished))));
const second = (facts: Partial<ShowDocument>): ShowDocument =>
  applyTemplate({ ...newShowDocument("Dance on the quay"), ...facts }, template);
const textsOf = ({ slides }: ShowDocument): string[] =>
  slides.map(({ passageId, words }) => `${passageId}: ${words.map(({ text }) => text).join(" / ")}`);

describe("cards of a template", () => {
  it("are those at the ends of passages; cards between pictures stay with their show", () => {
    expect(template.passages.map(({ opening, closing }) => [opening.length, closing.length])).toEqual([
      [1, 0],
      [1, 2],
    ]);
    expect(JSON.stringify(template)).not.toMatch(/Then the race|sha256|fileName/);
  });

  it("name nothing of the show that they come from", () => {
    // "regattas" is another word than the title, and stays.
    expect(JSON.stringify(template)).not.toMatch(/Lantern regatta[^s]|north quay|2031|harbour master|Slow tide/);
    expect(factsAskedFor(templateCards(template))).toEqual(["title", "event", "date", "client"]);
  });

  it("say the new show's own facts", () => {
    const show = second({ event: "Summer dance", date: "2032-07-03", client: "The crews" });
    expect(textsOf(show)).toEqual([
      "p1: Dance on the quay\nSummer dance, 3 July 2032",
      "p2: Lantern regattas are older than the quay",
      "p2: For:\nThe crews",
      "p2: Thank you\n3 July 2032",
    ]);
    expect(show.slides.map(({ length }) => length?.seconds)).toEqual([6, 6, 6, 6]);
    expect(showDocumentSchema.parse(show)).toEqual(show);
  });

  it("leave out what is not known, with its comma and its line; a field is never shown", () => {
    expect(textsOf(second({ date: "2032-07-03" }))).toEqual([
      "p1: Dance on the quay\n3 July 2032",
      "p2: Lantern regattas are older than the quay",
      "p2: ",
      "p2: Thank you\n3 July 2032",
    ]);
    expect(JSON.stringify(second({}))).not.toMatch(/\{(title|event|date|client)\}/);
  });

  it("come back the same from the show that they came from", () => {
    const again = applyTemplate({ ...finished, slides: [] }, template);
    expect(textsOf(again)).toEqual(
      textsOf(finished)
        .filter((text) => /Lantern|For:|Thank/.test(text))
        .map((text) => text.replace("\n\nMusic:\nSlow tide", "")),
    );
  });

  it("stay out of a show that has slides", () => {
    const full = { ...newShowDocument("Full"), slides: [picture("x")] };
    expect(applyTemplate(full, template).slides).toBe(full.slides);
  });

  it("close their passage: pictures that come in go before an end card and credits", () => {
    const show = second({});
    const place = arrivalPlace(show, "p2");
    const filled = insertSlides(show, [picture("n", "p2")], place);
    expect(filled.slides.map(({ id, words }) => words[0]?.kind ?? id)).toEqual([
      "title",
      "text",
      "n",
      "credits",
      "end",
    ]);
    expect(itemAt(filled.slides, 2).passageId).toBe("p2");
    // Nothing closes the first passage.
    expect(arrivalPlace(show, "p1")).toEqual({ passageId: "p1", beforeId: null });
  });

  it("of a template that knew none are none", () => {
    const { passages, ...rest } = template;
    const old = { ...rest, passages: passages.map(({ name, style }) => ({ name, style })) };
    expect(templateCards(templateSchema.parse(old))).toEqual([]);
  });
});
