import { CONFLICT, errorsOf, FORBIDDEN, NOT_YET, OUTSIDE } from "@humming-tide/core/errors";
import { gigabytes } from "../gigabytes.ts";

/** What goes wrong with services and devices outside. */
export const serviceError = errorsOf({
  "no-services": {
    meaning: NOT_YET,
    text: () =>
      "No services for publishing and discs are set up. Start the program with --services ADDRESS; those that ship " +
      "with it come with npm run demo.",
  },
  "service-unreachable": {
    meaning: OUTSIDE,
    text: ({ service, address }: { service: string; address: string }) =>
      `${service} does not answer at ${address}. Is it running? Try again.`,
  },
  "service-refused": {
    meaning: OUTSIDE,
    text: ({ service, why }: { service: string; status: number | null; why: string }) => `${service} says: ${why}`,
  },
  "sign-in-refused": {
    meaning: FORBIDDEN,
    text: ({ why }: { why: string }) => why,
  },
  "signed-out": {
    meaning: FORBIDDEN,
    text: () => "You are not signed in at the video site. Sign in; the upload goes on where it stopped.",
  },
  "no-film": {
    meaning: CONFLICT,
    text: () => "This film is not finished, or not there any more. Export it again.",
  },
  "video-failed": {
    meaning: OUTSIDE,
    text: ({ why }: { why: string | null }) => why ?? "The video site could not process the film.",
  },
  "disc-wanted": {
    meaning: CONFLICT,
    text: ({ found, wanted }: { found: string; wanted: string }) =>
      `${found}. Put in a blank one with ${wanted}, then try again.`,
  },
  "disc-too-small": {
    meaning: CONFLICT,
    text: ({ bytes, discBytes }: { bytes: number; discBytes: number }) =>
      `The film takes ${gigabytes(bytes)}, and the largest disc has ${gigabytes(discBytes)}. Export it smaller, or ` +
      "in two parts.",
  },
  "disc-spoilt": {
    meaning: CONFLICT,
    text: () => "The server stopped while the disc was being written: it is spoilt. Put in a new one and burn again.",
  },
  "burn-failed": {
    meaning: OUTSIDE,
    text: ({ why }: { why: string | null }) => why ?? "The disc was not written to its end. It is spoilt.",
  },
});
