import { expect, it } from "vitest";
import { bytesOnDisc, DISC_BYTES, discFor } from "./disc-size.ts";

it("counts whole sectors of 2,048 bytes and the tables", () => {
  const tables = bytesOnDisc([]);
  expect(bytesOnDisc([1])).toBe(tables + 2048);
  expect(bytesOnDisc([2048, 2049, 0])).toBe(tables + 2048 + 4096);
});

it("tells discs apart to the byte: 4.7 GB, 8.5 GB, none", () => {
  expect(DISC_BYTES.single % 2048).toBe(0);
  expect(DISC_BYTES.double % 2048).toBe(0);
  expect(discFor(DISC_BYTES.single)).toBe("single");
  expect(discFor(DISC_BYTES.single + 1)).toBe("double");
  expect(discFor(DISC_BYTES.double)).toBe("double");
  expect(discFor(DISC_BYTES.double + 1)).toBeNull();
});
