import { describe, expect, it } from "vitest";
import { itemAt } from "../../presence/index.ts";
import {
  addTake,
  addVoice,
  changeVoice,
  chooseTake,
  namedTakes,
  newShowDocument,
  removeTake,
  type ShowDocument,
  showDocumentSchema,
  takeOf,
} from "../index.ts";

const take = (letter: string) => ({ sha256: letter.repeat(64), fileName: `${letter}.wav` });
const place = { slideId: null, seconds: 3 };

describe("takes of a voice", () => {
  const one = addVoice(newShowDocument("Regatta"), take("a"), place);
  const three = [take("b"), take("c")].reduce((show, next) => addTake(show, "voice 1", next), one);
  const heard = (show: ShowDocument): string | undefined => show.voices[0] && takeOf(show.voices[0]).fileName;

  it("are all kept; the newest is heard, and any other when it is chosen", () => {
    expect(heard(three)).toBe("c.wav");
    expect(itemAt(three.voices, 0).takes).toHaveLength(3);
    expect(heard(chooseTake(three, "voice 1", 0))).toBe("a.wav");
    expect(chooseTake(three, "voice 1", 7)).toBe(three);
    expect(namedTakes(three).map(({ fileName }) => fileName)).toEqual(["a.wav", "b.wav", "c.wav"]);
  });

  it("bring back the one that is there already instead of having it twice", () => {
    const again = addTake(three, "voice 1", take("a"));
    expect(itemAt(again.voices, 0).takes).toHaveLength(3);
    expect(heard(again)).toBe("a.wav");
  });

  it("begin without the cuts and points that were made in the time of another", () => {
    const cut = changeVoice(one, "voice 1", { inSeconds: 2, musicLevel: [{ seconds: 1, decibels: -9 }], decibels: -3 });
    expect(addTake(cut, "voice 1", take("b")).voices[0]).toMatchObject({
      inSeconds: 0,
      musicLevel: [],
      decibels: -3,
      place,
    });
  });

  it("go one by one: what is heard stays, or its neighbour comes; the last takes the voice with it", () => {
    expect(heard(removeTake(three, "voice 1", 0))).toBe("c.wav");
    expect(heard(removeTake(three, "voice 1", 2))).toBe("b.wav");
    const none = [0, 0, 0].reduce((show, index) => removeTake(show, "voice 1", index), three);
    expect(none.voices).toEqual([]);
    expect(showDocumentSchema.parse(none)).toEqual(none);
  });

  it("have ids that are free", () => {
    const two = addVoice(three, take("d"), place);
    expect(two.voices.map(({ id }) => id)).toEqual(["voice 1", "voice 2"]);
  });
});
