import { isIP } from "node:net";
import type { RequestHandler } from "express";
import { requestError } from "./request-errors.ts";

/**
 * Lets only pages of this server change things, and only under a name that it goes by: a web page
 * elsewhere can send requests to a loopback address too, and with a rebound name even read the
 * answers.
 */
export function sameOrigin(hostNames: ReadonlySet<string>): RequestHandler {
  return (request, _response, next) => {
    const host = request.headers.host ?? "";
    const name = host.replace(/:\d+$/, "");
    // On all addresses of the machine there are many names; a bare address cannot be rebound, so it
    // is safe.
    const anyAddress = hostNames.has("0.0.0.0") || hostNames.has("::");
    const known = hostNames.has(name) || (anyAddress && isIP(name.replace(/^\[|\]$/g, "")) > 0);
    if (!known) throw requestError("host-refused", { host: name });
    const origin = request.headers.origin;
    if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) {
      throw requestError("origin-refused", { origin });
    }
    next();
  };
}
