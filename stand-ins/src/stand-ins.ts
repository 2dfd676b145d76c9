import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import path from "node:path";
import express, { type Express } from "express";
import { DISC_BYTES, Drive, discRoutes } from "./disc-writer.ts";
import { buttonForm, escaped, pageText } from "./pages.ts";
import { paymentRoutes } from "./payments.ts";
import { answerRefusals, Refusal } from "./refusal.ts";
import { isTrouble, TROUBLES, Troubles } from "./troubles.ts";
import { VIDEO_ACCOUNT, videoRoutes } from "./video-site.ts";

export interface StandInSettings {
  /** Where the services keep what they get. */
  readonly folder: string;
  readonly port: number;
  /** Of the drive. */
  readonly bytesPerSecond?: number;
  /** How long the video site looks at a film, whatever its length. */
  readonly processingMs?: number;
  readonly now?: () => number;
}

export interface RunningStandIns {
  readonly address: string;
  readonly troubles: Troubles;
  readonly drive: Drive;
  close(): Promise<void>;
}

/**
 * Quick, so that nobody waits for what is only made up: about thirty times as fast as a real drive.
 */
const DRIVE_BYTES_PER_SECOND = 150e6;

const PROCESSING_MS = 4000;

/** Serves the made-up services on loopback. Port 0 takes any free port. */
export async function startStandIns(settings: StandInSettings): Promise<RunningStandIns> {
  const troubles = new Troubles();
  const { folder, now = Date.now } = settings;
  const drive = new Drive(path.join(folder, "discs"), troubles, settings.bytesPerSecond ?? DRIVE_BYTES_PER_SECOND);
  let address = "";
  const app = express();
  app.disable("x-powered-by");
  app.use(paymentRoutes(folder, () => address, troubles, now));
  app.use(
    videoRoutes(path.join(folder, "video"), () => address, troubles, {
      now,
      processingMs: settings.processingMs ?? PROCESSING_MS,
    }),
  );
  app.use(discRoutes(drive));
  controls(app, drive, troubles);
  app.use(() => {
    throw new Refusal(404, "There is nothing at this address.");
  });
  app.use(answerRefusals);
  const server = createServer(app);
  await new Promise<void>((resolve, reject) => {
    server.once("error", reject);
    server.listen(settings.port, "127.0.0.1", resolve);
  });
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  return {
    address,
    troubles,
    drive,
    async close() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await drive.close();
    },
  };
}

/** A page with what hands do at real ones: putting discs in, and letting things go wrong. */
function controls(app: Express, drive: Drive, troubles: Troubles): void {
  app.get("/", (_request, response) => {
    const { medium, isBusy } = drive.state;
    const disc = medium
      ? `A ${medium.state} disc with ${medium.kind === "single" ? "one layer" : "two layers"}${medium.label ? `, “${escaped(medium.label)}”` : ""}.${isBusy ? " The drive is writing." : ""}`
      : "No disc.";
    const asked = Object.entries(TROUBLES)
      .map(([name, text]) =>
        isTrouble(name) && troubles.waits(name)
          ? `<p>Next: ${escaped(text)}.</p>`
          : buttonForm("/troubles", "trouble", name, text),
      )
      .join("\n");
    response.send(
      pageText(
        "Stand-ins",
        `<h1>Stand-ins</h1>
<p>A payment service, a video site and a drive for discs. The video site's only account is <b>${VIDEO_ACCOUNT.name}</b>, its password <b>${VIDEO_ACCOUNT.password}</b>.</p>
<h2>The drive</h2>
<p>${disc}</p>
${buttonForm("/tray", "kind", "single", "Put in a blank disc, 4.7 GB", true)}
${buttonForm("/tray", "kind", "double", "Put in a blank disc with two layers, 8.5 GB")}
<h2>Let something go wrong</h2>
${asked}`,
      ),
    );
  });
  const form = express.urlencoded({ extended: false, limit: "4kb" });
  app.post("/tray", form, (request, response) => {
    const { kind } = request.body as { kind?: unknown };
    if (kind !== "single" && kind !== "double")
      throw new Refusal(422, `A disc is one of ${Object.keys(DISC_BYTES).join(", ")}.`);
    drive.insert(kind);
    response.redirect(303, "/");
  });
  app.post("/troubles", form, (request, response) => {
    const { trouble } = request.body as { trouble?: unknown };
    if (typeof trouble !== "string" || !isTrouble(trouble)) throw new Refusal(422, "There is no such trouble.");
    troubles.ask(trouble, trouble === "video-away" ? 3 : 1);
    response.redirect(303, "/");
  });
}
