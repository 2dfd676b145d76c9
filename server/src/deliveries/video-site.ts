import type { VideoWish } from "@humming-tide/contract";

export type VideoFacts = Pick<VideoWish, "title" | "description" | "visibility">;

export interface PublishedVideo {
  readonly state: "uploading" | "processing" | "failed" | "ready";
  /** 0 to 1 of the processing. */
  readonly progress: number;
  /** Where it can be seen; null before. */
  readonly address: string | null;
  readonly error: string | null;
}

/**
 * A site that shows films. Every call but the first asks for a session's token and throws
 * `signed-out` where it holds no more; all throw `service-unreachable` and `service-refused`.
 */
export interface VideoSite {
  /** Throws `sign-in-refused`. */
  signIn(name: string, password: string): Promise<{ readonly token: string; readonly account: string }>;
  /** Announces a film and gives what it is called there. */
  begin(token: string, bytes: number, facts: VideoFacts): Promise<string>;
  /** How many bytes have arrived. */
  received(token: string, id: string): Promise<number>;
  /**
   * Sends what comes behind so many bytes; gives how many have arrived then. Throws the signal's
   * reason.
   */
  send(token: string, id: string, offset: number, chunk: Uint8Array, signal: AbortSignal): Promise<number>;
  video(token: string, id: string): Promise<PublishedVideo>;
}
