import {
  apiErrorSchema,
  type ExportJob,
  exportJobSchema,
  type Health,
  healthSchema,
  type MediaFacts,
  mediaFactsSchema,
  type SavedShow,
  type ShowSummary,
  savedShowSchema,
  showSummarySchema,
} from "@humming-tide/contract";
import type { MusicAnalysis, WaveformPeaks } from "@humming-tide/core/music";
import type { ShowDocument } from "@humming-tide/core/show";

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

export const api = {
  async health(): Promise<Health> {
    return healthSchema.parse(await asJson("/health"));
  },
  async listShows(): Promise<ShowSummary[]> {
    return showSummarySchema.array().parse(await asJson("/shows"));
  },
  async createShow(title: string): Promise<SavedShow> {
    return savedShowSchema.parse(await asJson("/shows", sendJson("POST", { title })));
  },
  async getShow(id: string): Promise<SavedShow> {
    return savedShowSchema.parse(await asJson(`/shows/${id}`));
  },
  async saveShow(id: string, revision: number, document: ShowDocument): Promise<number> {
    const saved = (await asJson(`/shows/${id}`, sendJson("PUT", document, { "If-Match": `"${revision}"` }))) as {
      revision: number;
    };
    return saved.revision;
  },
  async analysis(sha256: string): Promise<MusicAnalysis> {
    return (await asJson(`/media/${sha256}/analysis`)) as MusicAnalysis;
  },
  async peaks(sha256: string): Promise<WaveformPeaks> {
    return (await asJson(`/media/${sha256}/peaks`)) as WaveformPeaks;
  },
  async startExport(showId: string): Promise<ExportJob> {
    return exportJobSchema.parse(await asJson(`/shows/${showId}/exports`, { method: "POST" }));
  },
  async cancelExport(id: string): Promise<void> {
    await request(`/exports/${id}/cancel`, { method: "POST" });
  },
};

export const mediaUrl = (sha256: string, file: "thumbnail" | "working" | "fill" | "sound"): string =>
  `/api/media/${sha256}/${file}`;

/** Sends one file; `onProgress` hears 0 to 1 of the sending. Aborting the signal breaks it off. */
export function uploadFile(file: File, onProgress: (share: number) => void, signal: AbortSignal): Promise<MediaFacts> {
  return new Promise((resolve, reject) => {
    const sending = new XMLHttpRequest();
    const body = new FormData();
    body.append("file", file, file.name);
    sending.upload.onprogress = (event) => onProgress(event.lengthComputable ? event.loaded / event.total : 0);
    sending.onload = () => {
      if (sending.status < 300) resolve(mediaFactsSchema.parse(JSON.parse(sending.responseText)));
      else reject(failureOf(sending.status, sending.responseText));
    };
    sending.onerror = () => reject(new ApiFailure(0, "unreachable", UNREACHABLE));
    sending.onabort = () => reject(new ApiFailure(0, "cancelled", "Stopped."));
    signal.addEventListener("abort", () => sending.abort(), { once: true });
    sending.open("POST", "/api/media");
    sending.send(body);
  });
}
