import { homedir } from "node:os";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { readSettings } from "./settings.ts";

describe("settings of the server", () => {
  it("listens on loopback and keeps data in the home folder unless told otherwise", () => {
    expect(readSettings([], {})).toEqual({
      dataFolder: path.join(homedir(), "Humming Tide"),
      port: 4810,
      host: "127.0.0.1",
      clientPort: 4811,
      clientHost: "127.0.0.1",
      clientAddress: null,
      services: null,
    });
  });

  it("takes options before the environment", () => {
    const environment = { HUMMING_TIDE_DATA: "/a", HUMMING_TIDE_PORT: "5000", HUMMING_TIDE_HOST: "::1" };
    expect(readSettings([], environment)).toMatchObject({
      dataFolder: "/a",
      port: 5000,
      host: "::1",
      clientPort: 5001,
    });
    expect(readSettings(["--data", "/b", "--port", "0", "--client-host", "0.0.0.0"], environment)).toMatchObject({
      ...{ dataFolder: "/b", port: 0, host: "::1", clientPort: 0, clientHost: "0.0.0.0" },
    });
    expect(readSettings(["--client-address", "https://films.example/"], environment).clientAddress).toBe(
      "https://films.example",
    );
  });

  it.each([
    ["port-invalid", ["--port", "http"]],
    ["port-invalid", ["--port", "70000"]],
    ["option-unknown", ["--colour", "red"]],
    ["option-unknown", ["shows"]],
    ["address-invalid", ["--client-address", "films"]],
    ["address-invalid", ["--services", "https://a@b"]],
  ])("says %s of %j", (code, args) => {
    expect(() => readSettings(args, {})).toThrow(expect.objectContaining({ code }));
  });
});
