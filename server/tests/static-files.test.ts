import { request } from "node:http";
import { RunningServer } from "./running-server";

let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start();
});
afterAll(() => server.remove());

interface Answer {
  readonly status: number;
  readonly headers: { readonly [name: string]: string | string[] | undefined };
  readonly body: Buffer;
}

/** A request whose path and encodings go out exactly as given. */
const get = (path: string, headers: Record<string, string> = {}, method = "GET") =>
  new Promise<Answer>((done, failed) => {
    const { hostname, port } = new URL(server.url);
    request({ hostname, port, path, headers, method }, (response) => {
      const parts: Buffer[] = [];
      response.on("data", (part: Buffer) => parts.push(part));
      response.on("end", () =>
        done({ status: response.statusCode!, headers: response.headers, body: Buffer.concat(parts) }),
      );
    })
      .on("error", failed)
      .end();
  });

const scriptsOf = (html: Buffer) =>
  [...html.toString().matchAll(/src="(\/_expo\/[^"]+\.js)"/g)].map(([, path]) => path!);

describe("the client's files", () => {
  test("the shell is served at the root and at every place inside the app, and is asked for again", async () => {
    for (const path of ["/", "/history/some-rig", "/setup/tap?id=x"]) {
      const { status, headers, body } = await get(path);
      expect([path, status, headers["content-type"]]).toEqual([path, 200, "text/html; charset=utf-8"]);
      expect(headers["cache-control"]).toBe("no-cache");
      expect(body.toString()).toContain('<div id="root">');
    }
  });

  test("scripts never change under their name and go out compressed as asked", async () => {
    const [script] = scriptsOf((await get("/")).body);
    const [plain, brotli, gzip] = [
      await get(script!),
      await get(script!, { "Accept-Encoding": "gzip, br" }),
      await get(script!, { "Accept-Encoding": "gzip" }),
    ];
    expect(plain!.headers["cache-control"]).toMatch(/immutable/);
    expect(plain!.headers["content-encoding"]).toBeUndefined();
    expect(brotli!.headers["content-encoding"]).toBe("br");
    expect(gzip!.headers["content-encoding"]).toBe("gzip");
    expect(brotli!.body.length).toBeLessThan(gzip!.body.length);
    expect(gzip!.body.length).toBeLessThan(plain!.body.length);
    expect(brotli!.headers["vary"]).toBe("Accept-Encoding");
  });

  test("are not sent again to who has them", async () => {
    const first = await get("/base.css");
    const again = await get("/base.css", { "If-None-Match": String(first.headers["etag"]) });
    expect([again.status, again.body.length]).toEqual([304, 0]);
  });

  test("that are not there are not there, and no path leads out of the folder", async () => {
    for (const path of ["/missing.js", "/../package.json", "/%2e%2e/package.json", "/..%2f..%2fpackage.json", "/%"]) {
      const { status, body } = await get(path);
      expect(body.toString()).not.toContain('"workspaces"');
      expect([path, status]).toEqual([path, 404]);
    }
  });

  test("take no writing", async () => {
    expect((await get("/", {}, "DELETE")).status).toBe(404);
  });
});

test("pages may load from this origin alone and stand in no frame", async () => {
  const { headers } = await get("/");
  const policy = String(headers["content-security-policy"]);
  expect(policy).toMatch(/default-src 'self'/);
  expect(policy).toMatch(/frame-ancestors 'none'/);
  expect(policy).not.toMatch(/https?:/);
  expect(headers["x-content-type-options"]).toBe("nosniff");
  expect(headers["referrer-policy"]).toBe("no-referrer");
});

test("an address where no place stands says so, in the app and in its status", async () => {
  const { status, body } = await get("/nowhere/at/all");
  expect(status).toBe(404);
  expect(body.toString()).toContain('<div id="root">');
  for (const path of ["/water/", "/size/plans/some-plan", "/history"])
    expect([path, (await get(path)).status]).toEqual([path, 200]);
});

test("answers of the API are kept by nobody but the asker, who asks again each time", async () => {
  expect((await get("/api/v1/sites")).headers["cache-control"]).toBe("private, no-cache");
  expect((await get("/api/v1/sites/nonsense")).headers["cache-control"]).toBe("no-store");
});

test("the server listens on loopback alone", async () => {
  const { stdout } = await import("node:child_process").then(({ spawnSync }) =>
    spawnSync("sh", ["-c", `cat /proc/net/tcp /proc/net/tcp6`], { encoding: "utf8" }),
  );
  const hexPort = Number(new URL(server.url).port).toString(16).toUpperCase().padStart(4, "0");
  const listening = stdout.split("\n").filter((line) => line.includes(`:${hexPort} `) && / 0A /.test(line));
  expect(listening).toHaveLength(1);
  expect(listening[0]).toContain("0100007F:");
});
