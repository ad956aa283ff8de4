import { describe, expect, it } from "vitest";
import { allowedHosts, isLoopback, isOwnRequest, refusalToListen } from "./hosts";

const asked = (host: string | undefined, origin?: string, method = "POST") => ({ method, host, origin });

describe("a request", () => {
  it.each([
    ["127.0.0.1", "127.0.0.1:4909", true],
    ["127.0.0.1", "localhost:4909", true],
    ["127.0.0.1", "[::1]:4909", true],
    ["127.0.0.1", "LOCALHOST", true],
    ["127.0.0.1", "evil.example", false],
    ["127.0.0.1", "127.0.0.1.evil.example", false],
    ["127.0.0.1", undefined, false],
    ["127.0.0.1", "", false],
    ["localhost", "evil.example", false],
    ["localhost", "localhost:80", true],
    ["0.0.0.0", "evil.example", false],
    ["0.0.0.0", "0.0.0.0", false],
    ["lines.example", "lines.example:4909", true],
    ["lines.example", "other.example", false],
  ])("to a server at %s for %s: %s", (host, name, taken) =>
    expect(isOwnRequest(asked(name, undefined, "GET"), allowedHosts(host))).toBe(taken),
  );

  it("is taken for the names that are set", () => {
    const allowed = allowedHosts("0.0.0.0", "lines.example, lines.example.:80 ,10.0.0.7");
    expect(isOwnRequest(asked("lines.example:4909"), allowed)).toBe(true);
    expect(isOwnRequest(asked("10.0.0.7"), allowed)).toBe(true);
    expect(isOwnRequest(asked("10.0.0.8"), allowed)).toBe(false);
  });

  it.each([
    ["http://127.0.0.1:4909", "POST", true],
    ["http://127.0.0.1:4910", "POST", false],
    ["https://evil.example", "POST", false],
    ["https://evil.example", "GET", true],
    ["null", "POST", false],
    [undefined, "POST", true],
  ])("from %s by %s: %s", (origin, method, taken) =>
    expect(isOwnRequest(asked("127.0.0.1:4909", origin, method), allowedHosts("127.0.0.1"))).toBe(taken),
  );
});

describe("listening", () => {
  it.each([
    ["127.0.0.1", true],
    ["127.0.0.9", true],
    ["localhost", true],
    ["::1", true],
    ["[::1]", true],
    ["0.0.0.0", false],
    ["::", false],
    ["192.168.1.2", false],
    ["127.evil.example", false],
  ])("at %s is on this machine only: %s", (host, own) => {
    expect(isLoopback(host)).toBe(own);
    expect(refusalToListen(host, false) === null).toBe(own);
    expect(refusalToListen(host, true)).toBeNull();
  });

  it("elsewhere is refused in words that say what the way round it does", () =>
    expect(refusalToListen("0.0.0.0", false)).toMatch(
      /everybody who reaches this machine.*--open-to-all.*NINE_LINES_HOSTS/s,
    ));
});
