import { createHmac, randomBytes, scrypt, timingSafeEqual } from "node:crypto";
import { promisify } from "node:util";
import { itemAt, present } from "@humming-tide/core/presence";

const derive = promisify(scrypt) as (password: string, salt: Buffer, length: number) => Promise<Buffer>;
const HASH_BYTES = 32;

/** An address that cannot be guessed: 192 bits of the system's randomness. */
export const newToken = (): string => randomBytes(24).toString("base64url");
export const isToken = (text: string): boolean => /^[\w-]{32}$/.test(text);

export const newKey = (): string => randomBytes(32).toString("base64url");

/**
 * A PIN as it is stored: salted scrypt (RFC 7914), so that a stolen database does not tell it at
 * once. Four digits are soon tried all the same: what keeps them is the delay.
 */
export async function hashPin(pin: string): Promise<string> {
  const salt = randomBytes(16);
  return `${salt.toString("base64url")}.${(await derive(pin, salt, HASH_BYTES)).toString("base64url")}`;
}

export async function isPin(pin: string, stored: string): Promise<boolean> {
  const [salt, hash] = stored.split(".").map((part) => Buffer.from(part, "base64url"));
  const own = await derive(pin, present(salt), HASH_BYTES);
  return own.length === present(hash).length && timingSafeEqual(own, present(hash));
}

const IPV6_NETWORK_GROUPS = 4;

/**
 * What a visitor is called in the database: a keyed hash of the network address, so that addresses
 * are not kept. Of an IPv6 address only the network counts (64 bits, RFC 4291): a household has all
 * the others.
 */
export function visitorName(key: string, from: string): string {
  const address = from.replace(/^::ffff:(?=\d+\.)/i, "");
  const place = address.includes(":") ? ipv6Network(address) : address;
  return createHmac("sha256", key).update(`visitor ${place}`).digest("base64url");
}

function ipv6Network(address: string): string {
  const [head = "", tail] = itemAt(address.toLowerCase().split("%"), 0).split("::");
  const groups = head === "" ? [] : head.split(":");
  const rest = tail ? tail.split(":") : [];
  const zeros = Array.from({ length: tail === undefined ? 0 : 8 - groups.length - rest.length }, () => "0");
  return [...groups, ...zeros, ...rest]
    .slice(0, IPV6_NETWORK_GROUPS)
    .map((group) => group.replace(/^0+(?=.)/, ""))
    .join(":");
}

/** What a session lets in to: one page, as long as its address and its PIN are what they were. */
export interface SessionScope {
  readonly token: string;
  readonly keyVersion: number;
}

/**
 * A session is its end and a signature over it and its scope (HMAC-SHA-256): nothing of it is
 * stored, and a restart ends none.
 */
export function newSession(key: string, scope: SessionScope, endsAt: number): string {
  return `${endsAt.toString(36)}.${signature(key, scope, endsAt)}`;
}

export function isSession(key: string, scope: SessionScope, session: string, now: number): boolean {
  const match = /^([0-9a-z]{1,11})\.([\w-]{43})$/.exec(session);
  if (!match) return false;
  const endsAt = Number.parseInt(itemAt(match, 1), 36);
  const [own, given] = [Buffer.from(signature(key, scope, endsAt)), Buffer.from(itemAt(match, 2))];
  return timingSafeEqual(own, given) && now < endsAt;
}

const signature = (key: string, { token, keyVersion }: SessionScope, endsAt: number): string =>
  createHmac("sha256", key).update(`${token} ${keyVersion} ${endsAt}`).digest("base64url");
