import { type ChildProcess, spawn } from "node:child_process";
import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { Agent, request } from "node:http";
import { createServer, type AddressInfo } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterAll, describe, expect, it } from "vitest";
import { compactRedirects } from "../core/addresses/compact-redirects";
import { foldRedirects } from "../core/addresses/fold-redirects";
import { normalAddress } from "../core/addresses/path-form";
import { type Redirect } from "../core/addresses/redirect";
import { RedirectLookup } from "../core/addresses/redirect-lookup";
import { writeRedirects } from "./redirects-write";

const NGINX = "/usr/sbin/nginx";
const APACHE = "/usr/sbin/apache2";
const HOST = "x.example";

/** What may stand in a path and means something to one server or the other. */
const NASTY = [
  "dollar$1",
  "${host}",
  "curly{x}",
  "semi;colon",
  'quo"te',
  "back\\slash",
  "back\\1",
  "new\nline",
  "carriage\rreturn",
  "tab\tx",
  "space between",
  "per%25cent",
  "%1",
  "%{HOST}",
  "hash%23",
  "question%3Fmark",
  "a%2Fb",
  "caret^x",
  "star*x",
  "plus+x",
  "dot.html",
  "(paren)",
  "[bracket]",
  "pipe|x",
  "tilde~x",
  "~^regex",
  "amp&x=1",
  "colon:x",
  "at@x",
  "comma,x",
  "apostrophe'x",
  "excl!",
  "default",
  "include",
  "hostnames",
  "volatile",
  "café",
  "日本",
  "ünï–code",
  "%E6broken",
  "emoji🪢",
  "Upper",
  "UPPER",
  "#",
  "a=b",
  "-",
  "%C2%A0nbsp",
  "x".repeat(900),
  "<tag>",
  "`tick`",
  "back\\",
  "end$",
  "end\\\\",
  '"; return 200 "x',
  "%0d%0aSet-Cookie:x",
  "return 200;",
  "</Location>",
];

const encoded = (text: string) =>
  normalAddress(`/${text.replace(/[?#]/g, (sign) => encodeURIComponent(sign))}`).slice(1);

function siteOf(count: number) {
  const plain = Array.from({ length: count }, (_, i): Redirect => ({
    from: `/shop/${i % 40}/cleat-${i}`,
    to: i % 11 === 0 ? `/odd/${i}` : `/deck/${i % 40}/cleat-${i}`,
    status: i % 13 === 0 ? 302 : 301,
    prefix: false,
  }));
  const nasty = NASTY.flatMap((own, i): Redirect[] => [
    {
      from: `/n/${encoded(own)}`,
      to: `/t/${encoded(NASTY[(i + 7) % NASTY.length]!)}`,
      status: ([301, 302, 307, 308] as const)[i % 4]!,
      prefix: false,
    },
    { from: `/q/${encoded(own)}`, to: `/t/${i}?x=${encodeURIComponent(own)}`, status: 301, prefix: false },
    { from: `/gone/${encoded(own)}`, to: "", status: 410, prefix: false },
    { from: `/folder/${encoded(own)}/`, to: `/into/${encoded(own)}/`, status: 301, prefix: true },
    { from: `/away/${encoded(own)}`, to: `https://e.example/${encoded(own)}`, status: 301, prefix: false },
  ]);
  const more: Redirect[] = [
    { from: "/old/", to: "/new/", status: 301, prefix: true },
    { from: "/old/deep/", to: "/z/", status: 302, prefix: true },
    { from: "/over/", to: "", status: 410, prefix: true },
    { from: "/frag", to: "/t/frag#part", status: 301, prefix: false },
    { from: "/index.php?p=1", to: "/t/one", status: 301, prefix: false },
    { from: "/index.php?p=2", to: "/t/two?q=2", status: 308, prefix: false },
    { from: "/index.php?p=3", to: "", status: 410, prefix: false },
    { from: "/index.php?p=(4)&x=%C3%A9", to: "/t/four#x", status: 302, prefix: false },
    { from: "/index.php", to: "/t/none", status: 302, prefix: false },
  ];
  const pages = new Set(["/old/stays", "/old/Café", "/deck/0/cleat-1", "/"].map(normalAddress));
  const { redirects } = foldRedirects([...plain, ...nasty, ...more], pages);
  const probes = NASTY.flatMap((own) => [
    `/folder/${encoded(own)}/some/${encoded(own)}`,
    `/n/${encoded(own)}x`,
    `/nothing/${encoded(own)}`,
  ]);
  const asked = [
    ...redirects.filter(({ prefix }) => !prefix).map(({ from }) => from),
    ...redirects
      .slice(0, 300)
      .filter(({ prefix, from }) => !prefix && !from.includes("%2F"))
      .map(({ from }) => `${from}?ref=7`),
    ...probes,
    ...[
      "/index.php?p=2",
      "/index.php?p=22",
      "/index.php",
      "/old/x",
      "/old/deep/x?y=1",
      "/old/",
      "/old",
      "/old/stays",
      "/old/Stays",
      normalAddress("/old/Café"),
      "/over/x",
      "/SHOP/1/cleat-1",
      "/shop/1/Cleat-1",
      "/",
      "/n/upper",
    ],
  ];
  return { redirects, pages, asked };
}

interface Server {
  readonly process: ChildProcess;
  readonly said: () => string;
  readonly at: { readonly socketPath: string } | { readonly port: number };
}

const started: ChildProcess[] = [];
const folder = mkdtempSync(join(tmpdir(), "nine-lines-servers-"));
afterAll(async () => {
  await Promise.all(
    started.map((own) =>
      own.exitCode === null && own.signalCode === null
        ? new Promise((done) => (own.once("exit", done), own.kill("SIGTERM")))
        : null,
    ),
  );
  rmSync(folder, { recursive: true, force: true });
});

function start(command: string, args: readonly string[], at: Server["at"]): Server {
  const own = spawn(command, args, { stdio: ["ignore", "pipe", "pipe"] });
  started.push(own);
  let said = "";
  own.stdout.on("data", (piece: Buffer) => (said += piece.toString()));
  own.stderr.on("data", (piece: Buffer) => (said += piece.toString()));
  return { process: own, said: () => said, at };
}

function startNginx(rules: string): Server {
  const home = join(folder, "nginx");
  mkdirSync(home);
  // What belongs in the server block is told at the file’s end.
  const server = rules
    .slice(rules.indexOf("# In the server block:"))
    .split("\n")
    .slice(1)
    .map((line) => line.replace(/^# ?/, ""))
    .join("\n");
  writeFileSync(join(home, "redirects.conf"), rules);
  const temporary = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"]
    .map((name) => `${name}_temp_path ${home}/${name};`)
    .join(" ");
  writeFileSync(
    join(home, "nginx.conf"),
    `daemon off; master_process off; pid ${home}/pid; error_log stderr crit; worker_rlimit_nofile 1024; events { worker_connections 256; }
     http { access_log off; ${temporary} include ${home}/redirects.conf;
       server { listen unix:${home}/sock; ${server}\n location / { return 204; } } }`,
  );
  return start(NGINX, ["-c", join(home, "nginx.conf"), "-p", home, "-e", "stderr"], { socketPath: join(home, "sock") });
}

async function startApache(rules: string): Promise<Server> {
  const home = join(folder, "apache");
  mkdirSync(home);
  const port = await freePort();
  const modules = ["mpm_event", "authz_core", "rewrite"].filter((name) =>
    existsSync(`/usr/lib/apache2/modules/mod_${name}.so`),
  );
  writeFileSync(join(home, "redirects.conf"), rules);
  writeFileSync(
    join(home, "httpd.conf"),
    `ServerRoot "${home}"\n${modules.map((name) => `LoadModule ${name}_module /usr/lib/apache2/modules/mod_${name}.so`).join("\n")}
Listen 127.0.0.1:${port}\nServerName ${HOST}\nPidFile ${home}/pid\nErrorLog ${home}/errors\nDefaultRuntimeDir ${home}\nMutex pthread\nLimitRequestLine 16000
DocumentRoot "${home}"\n<Directory "${home}">\nRequire all denied\n</Directory>\nInclude ${home}/redirects.conf\n`,
  );
  return start(APACHE, ["-f", join(home, "httpd.conf"), "-DFOREGROUND"], { port });
}

async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((done) => probe.listen(0, "127.0.0.1", done));
  const { port } = probe.address() as AddressInfo;
  await new Promise((done) => probe.close(done));
  return port;
}

interface Reply {
  readonly status: number;
  readonly location: string | null;
}

function ask({ at }: Pick<Server, "at">, path: string, agent: Agent): Promise<Reply> {
  return new Promise((resolve, reject) => {
    const where = "port" in at ? { host: "127.0.0.1", port: at.port } : at;
    const asked = request({ ...where, path, agent, headers: { host: HOST } }, (answer) => {
      answer.resume();
      answer.on("end", () => resolve({ status: answer.statusCode!, location: answer.headers.location ?? null }));
    });
    asked.on("error", reject);
    asked.end();
  });
}

async function untilUp(server: Server, agent: Agent): Promise<void> {
  for (;;) {
    try {
      await ask(server, "/", agent);
      return;
    } catch (error) {
      if (server.process.exitCode !== null) throw new Error(`The server ended: ${server.said()}`, { cause: error });
      await new Promise((done) => setTimeout(done, 20));
    }
  }
}

/** What a server answers to each path that is not what the set says. */
async function differences(server: Server, redirects: readonly Redirect[]): Promise<string[]> {
  const agent = new Agent({ keepAlive: true, maxSockets: 24 });
  await untilUp(server, agent);
  const lookup = new RedirectLookup(redirects, site.pages);
  const wrong: string[] = [];
  const queue = [...site.asked];
  await Promise.all(
    Array.from({ length: 24 }, async () => {
      for (let path = queue.pop(); path !== undefined; path = queue.pop()) {
        const { status, location } = await ask(server, path, agent);
        const told = lookup.resolve(path);
        const isLed = told.status >= 300 && told.status < 400;
        const local = location?.replace(new RegExp(`^http://${HOST}(?=/)`), "") ?? null;
        const to = local === null ? null : local.startsWith("/") ? normalAddress(local) : local;
        const right = isLed
          ? status === told.status && to === told.to
          : told.status === 410
            ? status === 410
            : status < 300 || status === 404 || status === 403;
        if (!right) wrong.push(`${path}: ${status} ${location ?? ""}; the set says ${told.status} ${told.to ?? ""}`);
      }
    }),
  );
  agent.destroy();
  return wrong;
}

const site = siteOf(12_000);
const keepsOf = (redirects: readonly Redirect[]) => {
  const prefixes = new RedirectLookup(redirects.filter(({ prefix }) => prefix));
  return [...site.pages].filter((page) => prefixes.hop(page) !== null);
};
const written = (form: "nginx" | "apache", redirects: readonly Redirect[]) =>
  [...writeRedirects(form, { redirects, keeps: keepsOf(redirects) })].join("");

describe("a real web server leads every old path where the set says, with the status that it says", () => {
  it.skipIf(!existsSync(NGINX))("nginx", async () => {
    expect(site.asked.length).toBeGreaterThan(12_000);
    expect(await differences(startNginx(written("nginx", site.redirects)), site.redirects)).toEqual([]);
  });

  it.skipIf(!existsSync(APACHE))("Apache httpd, with the compact set", async () => {
    const { redirects } = compactRedirects(site.redirects, site.pages);
    expect(redirects.length).toBeLessThan(4000);
    expect(await differences(await startApache(written("apache", redirects)), redirects)).toEqual([]);
  });
});
