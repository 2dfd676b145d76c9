import type { ClientFilm } from "@humming-tide/contract";
import { present } from "@humming-tide/core/presence";
import { useCallback, useEffect, useRef, useState } from "react";
import { ClientFailure, clientApi, memory } from "./client-api.ts";

export type Visit =
  | { readonly kind: "coming" }
  | { readonly kind: "pin"; readonly message: string | null }
  /** Nothing to be seen: for good, or only not yet. */
  | { readonly kind: "away"; readonly message: string; readonly isOver: boolean }
  | { readonly kind: "film"; readonly session: string; readonly film: ClientFilm };

const LOOK_AGAIN_MS = 8000;
/** These end by themselves. */
const PASSING = new Set(["film-not-ready", "unreachable", "unknown", "internal"]);
const FOR_PINS = new Set(["pin-wanted", "pin-wrong", "pin-locked"]);

/**
 * Lets the visitor in, with a PIN where one is wanted, and keeps the film's facts and comments up
 * to date.
 */
export function useClientFilm(): {
  readonly visit: Visit;
  readonly enter: (pin: string | null) => Promise<void>;
  readonly refresh: () => Promise<void>;
} {
  const [visit, setVisit] = useState<Visit>({ kind: "coming" });
  const session = useRef(memory.get("session"));

  const refuse = useCallback((error: unknown): void => {
    const { code, message } =
      error instanceof ClientFailure ? error : new ClientFailure("unknown", (error as Error).message);
    if (FOR_PINS.has(code)) setVisit({ kind: "pin", message: code === "pin-wanted" ? null : message });
    // What is seen already stays while the line is down.
    else if (PASSING.has(code))
      setVisit((now) => (now.kind === "film" ? now : { kind: "away", message, isOver: false }));
    else setVisit({ kind: "away", message, isOver: true });
  }, []);

  const look = useCallback(async (): Promise<void> => {
    const film = await clientApi.film(session.current ?? "");
    setVisit({ kind: "film", session: present(session.current), film });
  }, []);

  const enter = useCallback(
    async (pin: string | null): Promise<void> => {
      try {
        session.current = await clientApi.enter(pin);
        memory.set("session", session.current);
        await look();
      } catch (error) {
        refuse(error);
      }
    },
    [look, refuse],
  );

  const refresh = useCallback(async (): Promise<void> => {
    try {
      if (session.current === null) await enter(null);
      else await look();
    } catch (error) {
      if (error instanceof ClientFailure && error.code === "session-ended") {
        session.current = null;
        memory.set("session", null);
        await enter(null);
      } else {
        refuse(error);
      }
    }
  }, [enter, look, refuse]);

  const looksAgain = visit.kind === "coming" || visit.kind === "film" || (visit.kind === "away" && !visit.isOver);
  useEffect(() => {
    void refresh();
  }, [refresh]);
  useEffect(() => {
    if (!looksAgain) return;
    const timer = setInterval(() => void refresh(), LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [looksAgain, refresh]);
  return { visit, enter, refresh };
}
