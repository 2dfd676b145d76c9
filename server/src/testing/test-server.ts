import { createServer, type RequestListener } from "node:http";
import type { AddressInfo } from "node:net";

export interface TestServer {
  /** http://127.0.0.1 and its port. */
  readonly address: string;
  readonly close: () => Promise<void>;
}

/**
 * Serves on a free port of this machine. An idle connection stays open: a test that computes for
 * longer than Node keeps them holds the server's thread too. Its next request would meet a
 * connection that is closed just then.
 */
export async function openTestServer(app: RequestListener): Promise<TestServer> {
  const server = createServer({ keepAliveTimeout: 0 }, app);
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    async close() {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
