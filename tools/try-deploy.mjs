// Tries docs/deploy.md on loopback: the shipped nginx configuration, a made certificate, a real browser.
// node tools/try-deploy.mjs (needs nginx, openssl, Chromium, and a built server and client)
import { execFileSync, spawn } from "node:child_process";
import { createHash, X509Certificate } from "node:crypto";
import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium } from "@playwright/test";
import { root } from "./sources.mjs";

const NAME = "bead.example";
const work = mkdtempSync(join(tmpdir(), "winter-bead-deploy-"));
const freePort = () =>
  new Promise((found) => {
    const probe = createServer().listen(0, "127.0.0.1", () => {
      const { port } = probe.address();
      probe.close(() => found(port));
    });
  });

const tls = await freePort();
const host = `${NAME}:${tls}`;
const server = spawn(process.execPath, [join(root, "server/dist/start.mjs")], {
  env: {
    ...process.env,
    PORT: "0",
    WINTER_BEAD_DATA: join(work, "data"),
    WINTER_BEAD_ROOT: root,
    WINTER_BEAD_HOSTS: host,
  },
  stdio: ["ignore", "pipe", "inherit"],
});
const address = await new Promise((ready) => {
  let printed = "";
  server.stdout.on("data", (part) => {
    printed += part;
    const found = /ready at (http:\S+)/.exec(printed)?.[1];
    if (found) ready(found);
  });
});

const [certificate, key] = [join(work, "fullchain.pem"), join(work, "key.pem")];
const subject = ["-subj", `/CN=${NAME}`, "-addext", `subjectAltName=DNS:${NAME}`];
execFileSync(
  "openssl",
  ["req", "-x509", "-newkey", "rsa:2048", "-nodes", "-days", "2", "-keyout", key, "-out", certificate, ...subject],
  {
    stdio: "ignore",
  },
);
const site = readFileSync(join(root, "docs/deploy/nginx.conf"), "utf8")
  .replace("listen 443 ", `listen 127.0.0.1:${tls} `)
  .replace("/etc/ssl/winter-bead/fullchain.pem", certificate)
  .replace("/etc/ssl/winter-bead/key.pem", key)
  .replace("http://127.0.0.1:4180", address)
  .replaceAll("/var/log/nginx/", `${work}/`);
mkdirSync(join(work, "nginx"));
writeFileSync(
  join(work, "nginx.conf"),
  `daemon off; pid ${work}/nginx.pid; error_log ${work}/error.log;\nevents {}\nhttp { access_log off; client_body_temp_path ${work}/nginx; proxy_temp_path ${work}/nginx; fastcgi_temp_path ${work}/nginx; uwsgi_temp_path ${work}/nginx; scgi_temp_path ${work}/nginx;\n${site}\n}\n`,
);
const proxy = spawn("nginx", ["-p", work, "-c", join(work, "nginx.conf")], { stdio: "inherit" });

/** The browser trusts this one certificate as a phone trusts one from an authority: by its public key. */
const trusted = createHash("sha256")
  .update(new X509Certificate(readFileSync(certificate)).publicKey.export({ type: "spki", format: "der" }))
  .digest("base64");
const browser = await chromium.launchPersistentContext(join(work, "profile"), {
  executablePath: "/usr/bin/chromium",
  viewport: { width: 390, height: 844 },
  locale: "en-GB",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    `--host-resolver-rules=MAP ${NAME} 127.0.0.1`,
    `--ignore-certificate-errors-spki-list=${trusted}`,
  ],
});
const tell = (line) => console.log(line);
try {
  const page = await browser.newPage();
  for (let i = 0; ; i += 1) {
    try {
      await page.goto(`https://${host}/`);
      break;
    } catch (error) {
      if (i === 40) throw error;
      await new Promise((again) => setTimeout(again, 100));
    }
  }
  await page.getByTestId("verdict-title").waitFor();
  tell(`the rack, by its name over TLS: ${await page.getByTestId("verdict-title").innerText()}`);
  await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
  tell("the service worker is ready");
  await page.goto(`https://${host}/settings`);
  await page.getByTestId("address-code").waitFor();
  tell(`the code for a phone: ${await page.getByTestId("address-code").getAttribute("aria-label")}`);
  const path = await page.evaluate(async () => {
    const asked = { method: "POST", headers: { "Content-Type": "application/json" }, body: '{"name":"Try"}' };
    return (await (await fetch("/api/v1/calendar/feeds", asked)).json()).path;
  });
  const secret = path.split("/").pop().replace(".ics", "");
  const spellings = [path, `${path}/`, path.replace("calendar", "%63alendar"), path.replace("feed", "fee%64")];
  const statuses = await page.evaluate(
    (all) => Promise.all(all.map((each) => fetch(each).then(({ status }) => status))),
    spellings,
  );
  await new Promise((written) => setTimeout(written, 500));
  const logged = readFileSync(join(work, "winter-bead.log"), "utf8");
  if (logged.includes(secret) || !logged.includes("/api/v1/rigs"))
    throw new Error("the proxy's log is not as it should be");
  tell(`a calendar's secret address, in ${spellings.length} spellings: ${statuses}, and not in the proxy's log`);
  const foreign = await fetch(`${address}/api/v1/rigs`);
  tell(`this machine's own name: ${foreign.status}`);
  await page.waitForTimeout(1_500);
  proxy.kill("SIGTERM");
  server.kill("SIGTERM");
  await new Promise((ended) => server.once("exit", ended));
  await page.goto(`https://${host}/`);
  await page.getByTestId("verdict-title").waitFor();
  tell(
    `with server and proxy ended: ${await page.getByTestId("verdict-title").innerText()}, ${await page.getByTestId("sent-state").innerText()}`,
  );
} finally {
  await browser.close();
  proxy.kill("SIGKILL");
  if (server.exitCode === null) server.kill("SIGTERM");
  rmSync(work, { recursive: true, force: true });
}
