import { lookup as lookUp, type LookupAddress } from "node:dns";
import { BlockList, isIP, isIPv4 } from "node:net";

/** Addresses of this machine and of the network it is in: RFC 6890. */
const PRIVATE = new BlockList();
for (const [net, prefix] of [
  ["0.0.0.0", 8],
  ["10.0.0.0", 8],
  ["100.64.0.0", 10],
  ["127.0.0.0", 8],
  ["169.254.0.0", 16],
  ["172.16.0.0", 12],
  ["192.168.0.0", 16],
] as const)
  PRIVATE.addSubnet(net, prefix, "ipv4");
for (const [net, prefix] of [
  ["::", 127],
  ["fc00::", 7],
  ["fe80::", 10],
] as const)
  PRIVATE.addSubnet(net, prefix, "ipv6");

export function isPrivateAddress(address: string): boolean {
  const mapped = /^::ffff:([\d.]+)$/i.exec(address)?.[1];
  if (mapped !== undefined) return isPrivateAddress(mapped);
  return PRIVATE.check(address, isIPv4(address) ? "ipv4" : "ipv6");
}

/** Whether an address is one of this machine, or of its network, by what stands in it. */
export function isPrivateBase(base: string): boolean {
  const host = new URL(base).hostname.replace(/^\[|\]$/g, "");
  if (isIP(host) !== 0) return isPrivateAddress(host);
  return host === "localhost" || host.endsWith(".localhost");
}

type LookedUp = (error: Error | null, address: string | LookupAddress[], family?: number) => void;

/** Looks a name up for who may not come to private addresses: a name of the wide world that leads to one is refused. */
export function publicLookup(host: string, options: object, done: LookedUp): void {
  lookUp(host, { ...options, all: true }, (error, found) => {
    if (error) return done(error, []);
    const own = found.find(({ address }) => isPrivateAddress(address));
    if (own)
      return done(
        new Error(
          `${host} leads to ${own.address}, an address of this machine’s own network. If that is meant, use that address itself`,
        ),
        [],
      );
    if ("all" in options && options.all) done(null, found);
    else done(null, found[0]!.address, found[0]!.family);
  });
}
