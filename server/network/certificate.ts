import "reflect-metadata";
import { webcrypto } from "node:crypto";
import fs from "node:fs";
import { isIP } from "node:net";
import { hostname } from "node:os";
import { join } from "node:path";
import { AsnConvert } from "@peculiar/asn1-schema";
import {
  GeneralName,
  GeneralSubtree,
  GeneralSubtrees,
  id_ce_nameConstraints,
  NameConstraints,
} from "@peculiar/asn1-x509";
import * as x509 from "@peculiar/x509";
import { makeFolder, writeWhole } from "../database/syncing.ts";

/** What a server proves its name with, PEM. */
export interface Identity {
  cert: string;
  key: string;
}

const KEY = { name: "ECDSA", namedCurve: "P-256", hash: "SHA-256" };
const DAY = 24 * 3600 * 1000;
/** days a server's certificate is valid: browsers take none longer than 398 */
const SERVER_DAYS = 390;
/** days left at which a new one is made */
const RENEW = 60;
const AUTHORITY_DAYS = 3650;
x509.cryptoProvider.set(webcrypto as unknown as Parameters<typeof x509.cryptoProvider.set>[1]);

/**
 * A certificate for the names of this installation, signed by an authority of its own that devices can be told to
 * trust. Both are made when first needed and kept in the data folder; the server's is renewed as it runs out and as
 * names change. The authority can vouch for names of a local network and those given to it alone, so that trusting it
 * opens nothing else (RFC 5280, name constraints).
 */
export async function ownIdentity(
  folder: string,
  names: readonly string[],
): Promise<Identity & { authority: string; renewed: boolean }> {
  const place = join(folder, "authority");
  makeFolder(place);
  const domains = names.filter((name) => isIP(name) === 0 && name !== "localhost");
  const authority = await authorityIn(place, domains);
  const kept = read(place, "server");
  if (!authority.renewed && kept && isGood(kept.cert, names)) {
    return { ...kept, authority: authority.cert, renewed: false };
  }
  const identity = await issue(authority, names);
  write(place, "server", identity);
  return { ...identity, authority: authority.cert, renewed: authority.renewed };
}

function isGood(pem: string, names: readonly string[]): boolean {
  const certificate = new x509.X509Certificate(pem);
  const san = certificate.getExtension(x509.SubjectAlternativeNameExtension);
  const held = new Set(san?.names.items.map(({ value }) => value));
  return (
    certificate.notAfter.getTime() - Date.now() > RENEW * DAY &&
    names.every((name) => held.has(name))
  );
}

async function authorityIn(place: string, domains: readonly string[]) {
  const kept = read(place, "authority");
  if (kept) {
    const certificate = new x509.X509Certificate(kept.cert);
    const allowed = allowedDomains(certificate);
    const covers = domains.every((name) =>
      allowed.some((own) => name === own || name.endsWith(`.${own}`)),
    );
    if (covers && certificate.notAfter.getTime() - Date.now() > SERVER_DAYS * DAY) {
      return { ...kept, renewed: false };
    }
  }
  const keys = await webcrypto.subtle.generateKey(KEY, true, ["sign", "verify"]);
  const certificate = await x509.X509CertificateGenerator.createSelfSigned({
    serialNumber: serial(),
    name: `CN=Upright Gusher on ${hostname().replace(/[^\w.-]/g, "")}`,
    ...lasting(AUTHORITY_DAYS),
    keys: keys,
    signingAlgorithm: KEY,
    extensions: [
      new x509.BasicConstraintsExtension(true, 0, true),
      new x509.KeyUsagesExtension(
        x509.KeyUsageFlags.keyCertSign | x509.KeyUsageFlags.cRLSign,
        true,
      ),
      constraints([...new Set(["local", ...domains])]),
      await x509.SubjectKeyIdentifierExtension.create(keys.publicKey),
    ],
  });
  const made = { cert: certificate.toString("pem"), key: await pemOf(keys.privateKey) };
  write(place, "authority", made);
  return { ...made, renewed: true };
}

/** Addresses that are never a public site's: this machine's and those of local networks (RFC 1918, 4193, 4291). */
const LOCAL = [
  ...["127.0.0.0/8", "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16", "169.254.0.0/16"],
  ...["::1/128", "fc00::/7", "fe80::/10"],
];

function constraints(domains: readonly string[]): x509.Extension {
  const subtrees = [
    ...domains.map((dNSName) => new GeneralName({ dNSName })),
    ...LOCAL.map((iPAddress) => new GeneralName({ iPAddress })),
  ].map((base) => new GeneralSubtree({ base }));
  const value = new NameConstraints({ permittedSubtrees: new GeneralSubtrees(subtrees) });
  return new x509.Extension(id_ce_nameConstraints, true, AsnConvert.serialize(value));
}

function allowedDomains(certificate: x509.X509Certificate): string[] {
  const extension = certificate.getExtension(id_ce_nameConstraints);
  if (!extension) return [];
  const { permittedSubtrees = [] } = AsnConvert.parse(extension.value, NameConstraints);
  return [...permittedSubtrees].flatMap(({ base }) => base.dNSName ?? []);
}

async function issue(authority: Identity, names: readonly string[]): Promise<Identity> {
  const signingKey = await webcrypto.subtle.importKey(
    "pkcs8",
    x509.PemConverter.decodeFirst(authority.key),
    KEY,
    false,
    ["sign"],
  );
  const issuer = new x509.X509Certificate(authority.cert);
  const keys = await webcrypto.subtle.generateKey(KEY, true, ["sign", "verify"]);
  const certificate = await x509.X509CertificateGenerator.create({
    serialNumber: serial(),
    subject: "CN=Upright Gusher",
    issuer: issuer.subject,
    ...lasting(SERVER_DAYS),
    publicKey: keys.publicKey,
    signingKey,
    signingAlgorithm: KEY,
    extensions: [
      new x509.BasicConstraintsExtension(false, undefined, true),
      new x509.KeyUsagesExtension(x509.KeyUsageFlags.digitalSignature, true),
      new x509.ExtendedKeyUsageExtension([x509.ExtendedKeyUsage.serverAuth]),
      new x509.SubjectAlternativeNameExtension(
        names.map((value) => ({ type: isIP(value) ? ("ip" as const) : ("dns" as const), value })),
      ),
      await x509.AuthorityKeyIdentifierExtension.create(issuer),
    ],
  });
  return { cert: certificate.toString("pem"), key: await pemOf(keys.privateKey) };
}

const lasting = (days: number) => ({
  // A device whose clock is a little behind takes it all the same.
  notBefore: new Date(Date.now() - DAY),
  notAfter: new Date(Date.now() + days * DAY),
});

const serial = () =>
  `01${Buffer.from(webcrypto.getRandomValues(new Uint8Array(15))).toString("hex")}`;

const pemOf = async (key: webcrypto.CryptoKey) =>
  x509.PemConverter.encode(await webcrypto.subtle.exportKey("pkcs8", key), "PRIVATE KEY");

function read(place: string, name: string): Identity | undefined {
  const [cert, key] = [join(place, `${name}.crt`), join(place, `${name}.key`)];
  if (!fs.existsSync(cert) || !fs.existsSync(key)) return undefined;
  return { cert: fs.readFileSync(cert, "utf8"), key: fs.readFileSync(key, "utf8") };
}

function write(place: string, name: string, { cert, key }: Identity): void {
  writeWhole(join(place, `${name}.key`), key, 0o600);
  writeWhole(join(place, `${name}.crt`), cert);
}
