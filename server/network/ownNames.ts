import { hostname, networkInterfaces } from "node:os";

/** Where a server listens, and by what names of its own it is asked for besides. */
export interface Listening {
  /** the address it is bound to */
  host: string;
  /** names given to it, such as a router's name for this machine */
  names: readonly string[];
}

const WILDCARDS = ["0.0.0.0", "::"];
const bare = (address: string) => address.toLowerCase().replace(/^\[|\]$|^::ffff:/g, "");

/** Whether an address or name is of this machine alone. */
export function isLoopback(address: string): boolean {
  const name = bare(address);
  return name === "localhost" || name === "::1" || /^127\.\d+\.\d+\.\d+$/.test(name);
}

/** Whether others than this machine's own users can reach a server. */
export const isOpen = ({ host, names }: Listening) => !isLoopback(host) || names.length > 0;

/**
 * The names and addresses a server really has: what it is bound to, this machine's own where it is bound to all of
 * them, and the names given to it.
 * @param interfaces of this machine; they change as networks come and go, and asking the system takes its time
 */
export function ownNames({ host, names }: Listening, interfaces = networkInterfaces): string[] {
  const own = new Set(names.map(bare));
  const bound = bare(host);
  if (WILDCARDS.includes(bound)) {
    own.add("localhost");
    for (const { address } of Object.values(interfaces())
      .flat()
      .filter((each) => each !== undefined))
      own.add(bare(address).replace(/%.*$/, ""));
  } else {
    own.add(bound);
    if (bound === "127.0.0.1" || bound === "::1") own.add("localhost");
    if (bound === "localhost") for (const address of ["127.0.0.1", "::1"]) own.add(address);
  }
  if (!isLoopback(host)) {
    const machine = hostname().toLowerCase();
    own.add(machine);
    if (!machine.includes(".")) own.add(`${machine}.local`);
  }
  return [...own];
}

/** What a person types to reach a server: what it is bound to, or all it may be reached by where that is everything. */
export function addressesOf(listening: Listening): string[] {
  const { host, names } = listening;
  const all = WILDCARDS.includes(bare(host))
    ? ownNames(listening).filter((name) => !isLoopback(name) && !/^fe80:/.test(name))
    : [bare(host)];
  return [...new Set([...all, ...names.map(bare)])];
}

/**
 * Whether a request's Host header is a name the server has. A page of another site can make a browser ask this
 * server under that site's name, or under “localhost” from another machine: neither is let in.
 * @param header as it came; without a port where something on the usual port stands before the server
 * @param arrivedAt the address it came in at; nothing where it came from this process
 */
export function isOwnName(
  header: string,
  port: number,
  arrivedAt: string | undefined,
  listening: Listening,
  interfaces = networkInterfaces,
): boolean {
  const parts = /^(\[[0-9a-f:.]+\]|[^:]+)(?::(\d+))?$/i.exec(header);
  if (!parts) return false;
  const [, name = "", asked] = parts;
  if (asked !== undefined && Number(asked) !== port) return false;
  if (isLoopback(name) && arrivedAt !== undefined && !isLoopback(arrivedAt)) return false;
  return ownNames(listening, interfaces).includes(bare(name));
}
