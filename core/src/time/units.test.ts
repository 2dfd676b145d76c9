import { expect, it } from "vitest";
import { z } from "zod";
import { asSeconds, type Frames, frameStart, type Samples, type Seconds } from "./index.ts";

/**
 * The compiler is the judge: a line that is expected to be refused and is not fails the check of
 * types.
 */
it("tells units apart, and takes plain numbers", () => {
  const frame: Frames = 30;
  const samples: Samples = 48_000;
  const time: Seconds = frameStart(frame, { num: 30, den: 1 });
  // @ts-expect-error frames are no seconds
  const mistaken: Seconds = frame;
  // @ts-expect-error samples are no frames
  frameStart(samples, { num: 30, den: 1 });
  // @ts-expect-error seconds are no frames
  frameStart(time, { num: 30, den: 1 });
  const sum: Seconds = time + 2 * mistaken;
  expect(sum).toBe(61);
});

it("gives what a schema reads its unit", () => {
  const schema = asSeconds(z.number().positive());
  type Read = z.infer<typeof schema>;
  const read: Read = schema.parse(2);
  // @ts-expect-error seconds are no frames
  const mistaken: Frames = read;
  expect(mistaken).toBe(2);
  expect(schema.safeParse(-1).success).toBe(false);
});
