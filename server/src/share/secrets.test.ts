import { createHmac } from "node:crypto";
import { itemAt, present } from "@humming-tide/core/presence";
import { expect, it } from "vitest";
import { pageDelaySeconds, visitorDelaySeconds } from "./pin-delay.ts";
import { hashPin, isPin, isSession, isToken, newSession, newToken, visitorName } from "./secrets.ts";

it("gives addresses that nobody guesses: 24 bytes, never the same", () => {
  const tokens = new Set(Array.from({ length: 2000 }, newToken));
  expect(tokens.size).toBe(2000);
  for (const token of tokens) expect(isToken(token) && Buffer.from(token, "base64url").length === 24).toBe(true);
  for (const text of ["", "../../etc/passwd", "a".repeat(31), "a".repeat(33), `${"a".repeat(31)}/`, "%00".repeat(11)])
    expect(isToken(text)).toBe(false);
});

it("keeps a PIN so that the same one looks different each time, and knows it again", async () => {
  const [one, two] = [await hashPin("0427"), await hashPin("0427")];
  expect(one).not.toBe(two);
  expect(one).not.toContain("0427");
  expect(await isPin("0427", one)).toBe(true);
  for (const wrong of ["427", "04270", "0428", "", "0427 "]) expect(await isPin(wrong, one)).toBe(false);
});

it("signs a session for one page, one PIN and one day", () => {
  const scope = { token: newToken(), keyVersion: 3 };
  const session = newSession("key", scope, 5000);
  // The signature by hand (RFC 2104).
  const [ends, signature] = session.split(".");
  expect(Number.parseInt(present(ends), 36)).toBe(5000);
  expect(signature).toBe(createHmac("sha256", "key").update(`${scope.token} 3 5000`).digest("base64url"));
  expect(isSession("key", scope, session, 4999)).toBe(true);
  expect(isSession("key", scope, session, 5000)).toBe(false);
  expect(isSession("other key", scope, session, 0)).toBe(false);
  expect(isSession("key", { ...scope, keyVersion: 4 }, session, 0)).toBe(false);
  expect(isSession("key", { ...scope, token: newToken() }, session, 0)).toBe(false);
  const longer = `${(9_999_999).toString(36)}.${signature}`;
  for (const forged of [
    longer,
    `${ends}.`,
    `.${signature}`,
    present(signature),
    "",
    `${session}x`,
    session.toUpperCase(),
  ])
    expect(isSession("key", scope, forged, 0)).toBe(false);
});

it("makes trying all PINs of four digits take longer than a year, by one visitor or by all of a page", () => {
  for (const [delayOf, first] of [
    [visitorDelaySeconds, [0, 0, 0, 2, 4, 8, 16, 32]],
    [pageDelaySeconds, [...Array.from({ length: 21 }, () => 0), 2, 4]],
  ] as const) {
    const delays = Array.from({ length: 10_000 }, (_, tries) => delayOf(tries));
    expect(delays.slice(0, first.length)).toEqual(first);
    for (let tries = 1; tries < delays.length; tries++)
      expect(delays[tries]).toBeGreaterThanOrEqual(itemAt(delays, tries - 1));
    expect(delays.reduce((sum, seconds) => sum + seconds, 0)).toBeGreaterThan(365 * 86_400);
  }
});

it("knows a visitor by the address, or in IPv6 by its network, and keeps neither", () => {
  const name = (address: string): string => visitorName("key", address);
  expect(name("203.0.113.7")).not.toContain("203");
  expect(name("::ffff:203.0.113.7")).toBe(name("203.0.113.7"));
  expect(name("203.0.113.8")).not.toBe(name("203.0.113.7"));
  // One household (RFC 4291, 2.5.4), written in several ways (RFC 5952).
  expect(name("2001:db8:0:1:aa::7")).toBe(name("2001:db8:0:1:bb:cc:dd:ee"));
  expect(name("2001:db8::1:0:0:0:7")).toBe(name("2001:0DB8:0000:0001::9"));
  expect(name("2001:db8:0:2::7")).not.toBe(name("2001:db8:0:1::7"));
  expect(visitorName("other key", "203.0.113.7")).not.toBe(name("203.0.113.7"));
});
