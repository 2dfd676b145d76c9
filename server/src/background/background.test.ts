import { newShowDocument, newSlide } from "@humming-tide/core/show";
import { afterAll, describe, expect, it } from "vitest";
import { Background } from "./background.ts";

const text = (slideCount: number): Uint8Array =>
  new TextEncoder().encode(
    JSON.stringify({
      ...newShowDocument("Regatta"),
      slides: Array.from({ length: slideCount }, (_, i) =>
        newSlide({ id: `s${i}`, sha256: "a".repeat(64), fileName: `${i}.jpg` }),
      ),
    }),
  );

const quick = new Background({ hasThreads: true, limitMs: 1 });
const patient = new Background({ hasThreads: true });
const inline = new Background({ hasThreads: false });
afterAll(async () => {
  await Promise.all([quick.close(), patient.close(), inline.close()]);
});

describe("work in the background", () => {
  it("gives the same with and without threads, errors too", async () => {
    // A thread hands over a plain byte array where the same call without one gives a Buffer.
    const answers = await Promise.all(
      [patient, inline].map(async (background) => {
        const answer = await background.run("checkSent", text(3));
        return { ...answer, packed: Buffer.from(answer.packed).toString("hex") };
      }),
    );
    expect(answers[0]).toEqual(answers[1]);
    const wrongRate = { ...newShowDocument("x"), frameRate: { num: 1, den: 9 } };
    const wrong = new TextEncoder().encode(JSON.stringify(wrongRate));
    for (const background of [patient, inline]) {
      await expect(background.run("checkSent", wrong)).rejects.toMatchObject({ name: "ZodError" });
      await expect(background.run("readStored", "lanterns")).rejects.toMatchObject({ code: "show-damaged" });
    }
  });

  it("ends what takes too long, and goes on with what comes then", async () => {
    await expect(quick.run("checkSent", text(5000))).rejects.toMatchObject({ code: "time-limit" });
    await expect(quick.run("checkSent", text(5000))).rejects.toMatchObject({ code: "time-limit" });
  });

  it("does not count the wait for a thread", async () => {
    // Many more than there are threads: the last begins long after the first has ended.
    const answers = await Promise.all(Array.from({ length: 12 }, () => patient.run("checkSent", text(500))));
    expect(new Set(answers.map(({ filmKey }) => filmKey)).size).toBe(1);
  });
});
