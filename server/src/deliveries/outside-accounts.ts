import type { Services } from "@humming-tide/contract";
import { serviceError } from "../services/service-errors.ts";
import type { PreferenceStore } from "../store/preference-store.ts";
import type { DiscWriter } from "./disc-writer.ts";
import type { VideoSite } from "./video-site.ts";

/** The services that films go out by. */
export interface OutsideServices {
  readonly address: string;
  readonly video: VideoSite;
  readonly disc: DiscWriter;
}

/** The services outside, and who is signed in there. */
export class OutsideAccounts {
  readonly #preferences: PreferenceStore;
  readonly #services: OutsideServices | null;

  /** `services` is null where none are set up: then films do not go out. */
  constructor(preferences: PreferenceStore, services: OutsideServices | null) {
    this.#preferences = preferences;
    this.#services = services;
  }

  /** What can be done at the moment. Never throws: a service that does not answer is said to. */
  async state(): Promise<Services> {
    if (!this.#services) return { address: null, videoAccount: null, drive: null };
    const { address, disc } = this.#services;
    const [session, drive] = await Promise.all([this.#preferences.videoSession(), disc.drive().catch(() => null)]);
    return { address, videoAccount: session?.account ?? null, drive };
  }

  /** Throws `no-services`, `sign-in-refused`, `service-unreachable`. */
  async signIn(name: string, password: string): Promise<void> {
    await this.#preferences.setVideoSession(await this.services.video.signIn(name, password));
  }

  async signOut(): Promise<void> {
    await this.#preferences.setVideoSession(null);
  }

  /** The video site with a session there. Throws `no-services` and `signed-out`. */
  async signedIn(): Promise<{ readonly site: VideoSite; readonly token: string }> {
    const { video: site } = this.services;
    const session = await this.#preferences.videoSession();
    if (!session) throw serviceError("signed-out");
    return { site, token: session.token };
  }

  /** Throws `no-services`. */
  get services(): OutsideServices {
    if (this.#services) return this.#services;
    throw serviceError("no-services");
  }
}
