import {
  type AnnouncedFile,
  apiErrorSchema,
  type ChangeClientPage,
  type ChangeStudio,
  type CheckRun,
  type CreateShow,
  checkRunSchema,
  clipProposalSchema,
  type Delivery,
  type DeliveryWish,
  deliverySchema,
  type ExportJob,
  exportJobSchema,
  type FilmFontFile,
  filmFontFileSchema,
  filmsFolderSchema,
  type Health,
  healthSchema,
  type IntakeFile,
  intakeFileSchema,
  type LibrarySong,
  type LibrarySongNotes,
  librarySongSchema,
  type MarkComment,
  type MediaFacts,
  mediaFactsSchema,
  type PackageEvent,
  type ProxyState,
  packageEventSchema,
  proxyStateSchema,
  type Rescue,
  type RevisionPage,
  rescueSchema,
  revisionPageSchema,
  type SavedShow,
  type SavedTemplate,
  type Services,
  type ShowPlace,
  type ShowSummary,
  type StoredProposal,
  type StudioClientPage,
  type StudioIdentity,
  savedShowSchema,
  savedTemplateSchema,
  servicesSchema,
  showSummarySchema,
  speechFactsSchema,
  studioClientPageSchema,
  studioIdentitySchema,
  type Variant,
  variantSchema,
} from "@humming-tide/contract";
import { type MusicAnalysis, unpackPeaks, type WaveformPeaks } from "@humming-tide/core/music";
import {
  type DocumentDelta,
  type Marker,
  readShowDocument,
  type ShowDocument,
  type ShowTemplate,
} from "@humming-tide/core/show";
import type { SpeechFacts } from "@humming-tide/core/sound";

/** A refused request; `status` 0 means that the server could not be reached. */
export class ApiFailure extends Error {
  readonly status: number;
  readonly code: string;

  constructor(status: number, code: string, message: string) {
    super(message);
    this.status = status;
    this.code = code;
  }
}

const UNREACHABLE = "The server cannot be reached. Is it still running?";

async function request(path: string, options: RequestInit = {}): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, options);
  } catch {
    throw new ApiFailure(0, "unreachable", UNREACHABLE);
  }
  if (!response.ok) throw failureOf(response.status, await response.text());
  return response;
}

function failureOf(status: number, text: string): ApiFailure {
  let parsed: unknown = null;
  try {
    parsed = JSON.parse(text);
  } catch {
    // Not ours: a proxy's page, for example.
  }
  const error = apiErrorSchema.safeParse(parsed);
  return error.success
    ? new ApiFailure(status, error.data.code, error.data.message)
    : new ApiFailure(status, "unknown", `The server answered with status ${status}.`);
}

const asJson = async (path: string, options?: RequestInit): Promise<unknown> => (await request(path, options)).json();

const sendJson = (method: string, body: unknown, headers: Record<string, string> = {}): RequestInit => ({
  method,
  headers: { "Content-Type": "application/json", ...headers },
  body: JSON.stringify(body),
});

/**
 * A browser sends at most 64 kB for pages that are gone (Fetch standard, 4.6); characters may take
 * several bytes.
 */
const MOST_KEPT_ALIVE = 16_000;

/** So many are checked before the page may do something else: about 10 ms of work. */
const PARSED_AT_ONCE = 1000;

/**
 * Checks the items of a long list without holding the page. The list is frozen, so that the store
 * takes it as it is: else it would freeze each part of each item.
 */
async function parsedInTurns<Item>(
  schema: { parse: (value: unknown) => Item },
  list: readonly unknown[],
): Promise<readonly Item[]> {
  const items: Item[] = [];
  for (let at = 0; at < list.length; at += PARSED_AT_ONCE) {
    if (at > 0) await new Promise((resolve) => setTimeout(resolve));
    items.push(...list.slice(at, at + PARSED_AT_ONCE).map((item) => schema.parse(item)));
  }
  return Object.freeze(items);
}

const askClientPage = async (showId: string, place: string, options?: RequestInit): Promise<StudioClientPage> =>
  studioClientPageSchema.parse(await asJson(`/shows/${showId}/client-page${place}`, options));

export const api = {
  /** The fonts that words in films are written in. */
  async filmFonts(): Promise<FilmFontFile[]> {
    return filmFontFileSchema.array().parse(await asJson("/film-fonts"));
  },

  /** Brings in a graphic of one's own. */
  async sendGraphic(file: File): Promise<MediaFacts> {
    const headers = { "Content-Type": "application/octet-stream", "X-File-Name": encodeURIComponent(file.name) };
    const response = await request("/media/graphics", { method: "POST", headers, body: file });
    return mediaFactsSchema.parse(await response.json());
  },

  /** Brings in something spoken. */
  async sendVoice(file: File): Promise<MediaFacts> {
    const headers = { "Content-Type": "application/octet-stream", "X-File-Name": encodeURIComponent(file.name) };
    const response = await request("/media/voices", { method: "POST", headers, body: file });
    return mediaFactsSchema.parse(await response.json());
  },

  /**
   * `name`: a content hash, or the name of a spoken decode (core/sound), in which words are looked
   * for.
   */
  async speech(name: string): Promise<SpeechFacts> {
    return speechFactsSchema.parse(await asJson(`/media/${name}/speech`));
  },

  async filmFont(name: string): Promise<Uint8Array> {
    const response = await request(`/film-fonts/${encodeURIComponent(name)}`);
    return new Uint8Array(await response.arrayBuffer());
  },

  async health(): Promise<Health> {
    return healthSchema.parse(await asJson("/health"));
  },
  async listShows(): Promise<readonly ShowSummary[]> {
    return parsedInTurns(showSummarySchema, (await asJson("/shows")) as unknown[]);
  },
  async createShow(show: CreateShow): Promise<SavedShow> {
    return savedShowSchema.parse(await asJson("/shows", sendJson("POST", show)));
  },
  async duplicateShow(id: string, title: string): Promise<SavedShow> {
    return savedShowSchema.parse(await asJson(`/shows/${id}/duplicate`, sendJson("POST", { title })));
  },
  async placeShow(id: string, place: ShowPlace): Promise<void> {
    await request(`/shows/${id}/place`, sendJson("POST", { place }));
  },
  /** The playable copies of clips. */
  async copies(id: string, clips: readonly string[]): Promise<ProxyState[]> {
    return proxyStateSchema.array().parse(await asJson(`/shows/${id}/copies?clips=${clips.join(",")}`));
  },
  /** What can be done about a show that cannot be read. */
  async rescue(id: string): Promise<Rescue> {
    return rescueSchema.parse(await asJson(`/shows/${id}/rescue`));
  },
  /** Goes back to the newest revision that can be read. */
  async restoreShow(id: string): Promise<void> {
    await request(`/shows/${id}/restore`, { method: "POST" });
  },
  async revisions(id: string, before: number | null): Promise<RevisionPage> {
    return revisionPageSchema.parse(
      await asJson(`/shows/${id}/revisions${before === null ? "" : `?before=${before}`}`),
    );
  },
  async documentAt(id: string, revision: number): Promise<ShowDocument> {
    return readShowDocument(await asJson(`/shows/${id}/revisions/${revision}`));
  },
  /** Revisions that a person gave names, the one kept last first. */
  async variants(id: string): Promise<Variant[]> {
    return variantSchema.array().parse(await asJson(`/shows/${id}/variants`));
  },
  async keepVariant(id: string, name: string, revision: number): Promise<Variant> {
    return variantSchema.parse(await asJson(`/shows/${id}/variants`, sendJson("POST", { name, revision })));
  },
  /** What a variant holds, as a show of its own is answered. */
  async variant(id: string, variantId: string): Promise<SavedShow> {
    return savedShowSchema.parse(await asJson(`/shows/${id}/variants/${variantId}`));
  },
  async renameVariant(id: string, variantId: string, name: string): Promise<Variant> {
    return variantSchema.parse(await asJson(`/shows/${id}/variants/${variantId}`, sendJson("PATCH", { name })));
  },
  async removeVariant(id: string, variantId: string): Promise<void> {
    await request(`/shows/${id}/variants/${variantId}`, { method: "DELETE" });
  },
  async templates(): Promise<SavedTemplate[]> {
    return savedTemplateSchema.array().parse(await asJson("/templates"));
  },
  async saveTemplate(name: string, template: ShowTemplate): Promise<SavedTemplate> {
    return savedTemplateSchema.parse(await asJson("/templates", sendJson("POST", { name, template })));
  },
  async removeTemplate(id: string): Promise<void> {
    await request(`/templates/${id}`, { method: "DELETE" });
  },
  async announce(showId: string, files: readonly AnnouncedFile[]): Promise<IntakeFile[]> {
    return intakeFileSchema.array().parse(await asJson(`/shows/${showId}/intake`, sendJson("POST", { files })));
  },
  async waitingFiles(showId: string): Promise<IntakeFile[]> {
    return intakeFileSchema.array().parse(await asJson(`/shows/${showId}/intake`));
  },
  async forgetWaitingFiles(showId: string): Promise<void> {
    await request(`/shows/${showId}/intake`, { method: "DELETE" });
  },
  async getShow(id: string): Promise<SavedShow> {
    return savedShowSchema.parse(await asJson(`/shows/${id}`));
  },
  /** Sends what changed since a revision; gives the new one. */
  async saveChange(id: string, revision: number, change: DocumentDelta): Promise<number> {
    const options = sendJson("PATCH", change, { "If-Match": `"${revision}"` });
    // A small change goes on its way also while the page is being closed.
    const keepalive = JSON.stringify(change).length < MOST_KEPT_ALIVE;
    const saved = (await asJson(`/shows/${id}`, { ...options, keepalive })) as { revision: number };
    return saved.revision;
  },
  async analysis(sha256: string): Promise<MusicAnalysis> {
    return (await asJson(`/media/${sha256}/analysis`)) as MusicAnalysis;
  },
  async peaks(sha256: string): Promise<WaveformPeaks> {
    return unpackPeaks(await (await request(`/media/${sha256}/peaks`)).arrayBuffer());
  },
  /** Makes the clip in a picture's file a medium of its own. */
  async movingPart(sha256: string): Promise<MediaFacts> {
    return mediaFactsSchema.parse(await asJson(`/media/${sha256}/moving-part`, { method: "POST" }));
  },
  /** What is proposed for a clip; long when it is asked for the first time. */
  async clipProposal(sha256: string): Promise<StoredProposal> {
    return clipProposalSchema.parse(await asJson(`/media/${sha256}/proposal`));
  },
  /** The song's sound with these markers as cue points. */
  async markedWav(sha256: string, markers: readonly Marker[]): Promise<Blob> {
    const sent = markers.map(({ seconds, name, kind }) => ({ seconds, name, kind }));
    return (await request(`/songs/${sha256}/marked-wav`, sendJson("POST", { markers: sent }))).blob();
  },
  async librarySongs(): Promise<LibrarySong[]> {
    return librarySongSchema.array().parse(await asJson("/songs"));
  },
  async noteSong(sha256: string, notes: LibrarySongNotes): Promise<LibrarySong> {
    return librarySongSchema.parse(await asJson(`/songs/${sha256}/notes`, sendJson("PUT", notes)));
  },
  async startExports(showId: string, outputIds: readonly string[]): Promise<readonly ExportJob[]> {
    return exportJobSchema.array().parse(await asJson(`/shows/${showId}/exports`, sendJson("POST", { outputIds })));
  },
  async exports(showId: string): Promise<ExportJob[]> {
    return exportJobSchema.array().parse(await asJson(`/shows/${showId}/exports`));
  },
  /** Lets a waiting export be the next. */
  async exportNext(id: string): Promise<void> {
    await request(`/exports/${id}/first`, { method: "POST" });
  },

  async cancelExport(id: string): Promise<void> {
    await request(`/exports/${id}/cancel`, { method: "POST" });
  },
  async filmsFolder(): Promise<string | null> {
    return filmsFolderSchema.parse(await asJson("/films-folder")).folder;
  },
  async setFilmsFolder(folder: string | null): Promise<string | null> {
    return filmsFolderSchema.parse(await asJson("/films-folder", sendJson("PUT", { folder }))).folder;
  },
  async clientPage(showId: string): Promise<StudioClientPage> {
    return askClientPage(showId, "");
  },
  /** Opens one where there is none yet. */
  /** How the studio shows itself to its clients. */
  async studioIdentity(): Promise<StudioIdentity> {
    return studioIdentitySchema.parse(await asJson("/studio"));
  },
  async changeStudio(change: ChangeStudio): Promise<StudioIdentity> {
    return studioIdentitySchema.parse(await asJson("/studio", sendJson("PUT", change)));
  },
  /** Null takes the logo away. Refused with `logo-damaged`. */
  async setLogo(file: File | null): Promise<StudioIdentity> {
    const options = file ? { method: "PUT", body: file } : { method: "DELETE" };
    return studioIdentitySchema.parse(await asJson("/studio/logo", options));
  },
  async changeClientPage(showId: string, change: ChangeClientPage): Promise<StudioClientPage> {
    return askClientPage(showId, "", sendJson("PUT", change));
  },
  async removeClientPage(showId: string): Promise<StudioClientPage> {
    return askClientPage(showId, "", { method: "DELETE" });
  },
  /** Ends every wait after wrong PINs. */
  async endPinWaiting(showId: string): Promise<StudioClientPage> {
    return askClientPage(showId, "/end-waiting", { method: "POST" });
  },
  async newClientAddress(showId: string): Promise<StudioClientPage> {
    return askClientPage(showId, "/new-address", { method: "POST" });
  },
  async publishVersion(showId: string, note: string): Promise<StudioClientPage> {
    return askClientPage(showId, "/versions", sendJson("POST", { note }));
  },
  async answerComment(showId: string, commentId: string, text: string): Promise<StudioClientPage> {
    return askClientPage(showId, `/comments/${commentId}/answers`, sendJson("POST", { text }));
  },
  async markComment(showId: string, commentId: string, mark: MarkComment): Promise<StudioClientPage> {
    return askClientPage(showId, `/comments/${commentId}`, sendJson("PUT", mark));
  },
  async services(): Promise<Services> {
    return servicesSchema.parse(await asJson("/services"));
  },
  async signInVideo(name: string, password: string): Promise<Services> {
    return servicesSchema.parse(await asJson("/services/video/sign-in", sendJson("POST", { name, password })));
  },
  async signOutVideo(): Promise<Services> {
    return servicesSchema.parse(await asJson("/services/video/sign-out", { method: "POST" }));
  },
  async deliver(showId: string, wish: DeliveryWish): Promise<void> {
    await request(`/shows/${showId}/deliveries`, sendJson("POST", wish));
  },
  async deliveries(showId: string): Promise<Delivery[]> {
    return deliverySchema.array().parse(await asJson(`/shows/${showId}/deliveries`));
  },
  async cancelDelivery(id: string): Promise<void> {
    await request(`/deliveries/${id}/cancel`, { method: "POST" });
  },
  async resumeDelivery(id: string): Promise<void> {
    await request(`/deliveries/${id}/resume`, { method: "POST" });
  },
  /** The last thorough check; null: there was none. */
  async checkRun(showId: string): Promise<CheckRun | null> {
    return checkRunSchema.nullable().parse(await asJson(`/shows/${showId}/check`));
  },
  async startCheck(showId: string): Promise<void> {
    await request(`/shows/${showId}/check`, { method: "POST" });
  },
  async cancelCheck(showId: string): Promise<void> {
    await request(`/shows/${showId}/check/cancel`, { method: "POST" });
  },
};

/** `name` is a content hash, or for what is seen the name of a drawn picture (core/picture). */
export const mediaUrl = (
  name: string,
  file: "thumbnail" | "working" | "fill" | "graphic" | "sound" | "proxy",
): string => `/api/media/${name}/${file}`;

/** The saved text of a show, readable or not. */
export const rawShowUrl = (showId: string): string => `/api/shows/${showId}/raw`;

export const packageUrl = (showId: string): string => `/api/shows/${showId}/package`;

interface Sending {
  readonly method: "PUT" | "POST";
  readonly path: string;
  readonly file: File;
  readonly signal: AbortSignal;
  /** Hears 0 to 1 of the sending. */
  readonly onSent: (share: number) => void;
  /** Hears the answer as it grows, for answers of many lines. */
  readonly onAnswer?: (text: string) => void;
}

/**
 * Sends a file as the body of a request: by the old interface, because only that one tells how much
 * has been sent.
 */
function send({ method, path, file, signal, onSent, onAnswer }: Sending): Promise<string> {
  return new Promise((resolve, reject) => {
    const sending = new XMLHttpRequest();
    sending.upload.onprogress = (event) => onSent(event.lengthComputable ? event.loaded / event.total : 0);
    if (onAnswer) sending.onprogress = () => onAnswer(sending.responseText);
    sending.onload = () => {
      if (sending.status < 300) resolve(sending.responseText);
      else reject(failureOf(sending.status, sending.responseText));
    };
    sending.onerror = () => reject(new ApiFailure(0, "unreachable", UNREACHABLE));
    sending.onabort = () => reject(new ApiFailure(0, "cancelled", "Stopped."));
    signal.addEventListener("abort", () => sending.abort(), { once: true });
    sending.open(method, `/api${path}`);
    sending.setRequestHeader("Content-Type", "application/octet-stream");
    sending.send(file);
  });
}

/** Sends one announced file. */
export async function sendAnnounced(
  showId: string,
  fileId: string,
  file: File,
  onSent: (share: number) => void,
  signal: AbortSignal,
): Promise<MediaFacts> {
  const path = `/shows/${showId}/intake/${fileId}`;
  return mediaFactsSchema.parse(JSON.parse(await send({ method: "PUT", path, file, signal, onSent })));
}

/**
 * Opens a package as a new show; gives its id. `onStep` hears what is being done and 0 to 1 of it.
 */
export async function openPackage(
  file: File,
  onStep: (step: "sending" | "checking", share: number) => void,
  signal: AbortSignal,
): Promise<string> {
  const events = (text: string): PackageEvent[] =>
    text
      .split("\n")
      .slice(0, -1)
      .map((line) => packageEventSchema.parse(JSON.parse(line)));
  const answer = await send({
    method: "POST",
    path: "/packages",
    file,
    signal,
    onSent: (share) => onStep("sending", share),
    onAnswer: (text) => {
      const last = events(text).at(-1);
      if (last?.kind === "progress") onStep("checking", last.total > 0 ? last.done / last.total : 1);
    },
  });
  const last = events(answer).at(-1);
  if (last?.kind === "opened") return last.showId;
  if (last?.kind === "failed") throw new ApiFailure(400, last.code, last.message);
  throw new ApiFailure(0, "unreachable", "The server stopped before the package was open. Try again.");
}
