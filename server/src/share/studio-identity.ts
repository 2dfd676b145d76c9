import { type ChangeStudio, FIRST_IDENTITY, type StudioIdentity, studioIdentitySchema } from "@humming-tide/contract";
import sharp from "sharp";
import type { PreferenceStore } from "../store/preference-store.ts";
import { clientPageError } from "./client-page-errors.ts";

/** A logo is shown 40 pixels tall; this is enough for sharp screens. */
const LOGO_BOX = { width: 640, height: 160 };
const LARGEST_PIXELS = 40_000_000;

/** The studio's name, colour and logo, which all of its client pages wear. */
export class StudioIdentityKeeper {
  readonly #preferences: PreferenceStore;

  constructor(preferences: PreferenceStore) {
    this.#preferences = preferences;
  }

  async get(): Promise<StudioIdentity> {
    const stored = await this.#preferences.studioIdentity();
    if (stored === null) return FIRST_IDENTITY;
    // What cannot be read (of another version) must not keep a client from a film.
    const { data } = studioIdentitySchema.safeParse(JSON.parse(stored));
    return data ?? FIRST_IDENTITY;
  }

  async change(change: ChangeStudio): Promise<StudioIdentity> {
    return this.#keep({ ...(await this.get()), ...change });
  }

  /**
   * Takes a picture as the logo: decoded and written anew, so that nothing else of the file reaches
   * a client. Null takes it away. Throws `logo-damaged`.
   */
  async setLogo(content: Buffer | null): Promise<StudioIdentity> {
    const png = content && (await logoOf(content));
    const logo = png && (`data:image/png;base64,${png.toString("base64")}` as const);
    return this.#keep({ ...(await this.get()), logo });
  }

  async #keep(identity: StudioIdentity): Promise<StudioIdentity> {
    await this.#preferences.setStudioIdentity(JSON.stringify(identity));
    return identity;
  }
}

async function logoOf(content: Buffer): Promise<Buffer> {
  try {
    return await sharp(content, { limitInputPixels: LARGEST_PIXELS, failOn: "truncated" })
      .autoOrient()
      .toColourspace("srgb")
      .resize({ ...LOGO_BOX, fit: "inside", withoutEnlargement: true })
      .png({ compressionLevel: 9 })
      .toBuffer();
  } catch (cause) {
    throw clientPageError("logo-damaged", {}, { cause });
  }
}
