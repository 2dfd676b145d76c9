import {
  apiErrorSchema,
  begunPaymentSchema,
  type ClientFilm,
  type CommentWish,
  clientFilmSchema,
  enteredSchema,
} from "@humming-tide/contract";
import type { z } from "zod";

/** What the page was refused; `code` "unreachable" where there was no answer. */
export class ClientFailure extends Error {
  readonly code: string;

  constructor(code: string, message: string) {
    super(message);
    this.code = code;
  }
}

/** This page's address, "/p/…". */
const PAGE = location.pathname.replace(/\/$/, "");

async function ask<T>(
  schema: z.ZodType<T> | null,
  method: string,
  place: string,
  session: string,
  body?: unknown,
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`${PAGE}${place}`, {
      method,
      headers: { "X-Session": session, ...(body === undefined ? {} : { "Content-Type": "application/json" }) },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    });
  } catch {
    throw new ClientFailure(
      "unreachable",
      "The film cannot be reached at the moment. This page tries again by itself.",
    );
  }
  const answer: unknown = await response.json().catch(() => null);
  if (response.ok) return schema ? schema.parse(answer) : (undefined as T);
  const { success, data } = apiErrorSchema.safeParse(answer);
  throw success
    ? new ClientFailure(data.code, data.message)
    : new ClientFailure("unknown", `The answer was ${response.status}.`);
}

export const clientApi = {
  /**
   * Gives a session. Refused with `pin-wanted`, `pin-wrong`, `pin-locked`, `page-unknown`,
   * `page-closed`.
   */
  async enter(pin: string | null): Promise<string> {
    return (await ask(enteredSchema, "POST", "/enter", "", { pin })).session;
  },
  /** Refused with `session-ended`, `film-not-ready` and as `enter`. */
  film(session: string): Promise<ClientFilm> {
    return ask(clientFilmSchema, "GET", "/film", session);
  },
  comment(session: string, wish: CommentWish): Promise<void> {
    return ask<void>(null, "POST", "/comments", session, wish);
  },
  async pay(session: string, key: string): Promise<string> {
    return (await ask(begunPaymentSchema, "POST", "/payments", session, { key })).checkoutUrl;
  },
};

const inQuery = (session: string): string => `session=${encodeURIComponent(session)}`;
export const watchUrl = (version: number, session: string): string => `${PAGE}/watch/${version}?${inQuery(session)}`;
export const coverUrl = (session: string): string => `${PAGE}/cover?${inQuery(session)}`;
export const downloadUrl = (session: string): string => `${PAGE}/download?${inQuery(session)}`;

/**
 * What this page remembers while its tab is open; a browser may refuse to, in a frame for example.
 */
export const memory = {
  get(name: string): string | null {
    try {
      return sessionStorage.getItem(`${PAGE} ${name}`);
    } catch {
      return null;
    }
  },
  set(name: string, value: string | null): void {
    try {
      if (value === null) sessionStorage.removeItem(`${PAGE} ${name}`);
      else sessionStorage.setItem(`${PAGE} ${name}`, value);
    } catch {
      // Then it is asked for again.
    }
  },
};
