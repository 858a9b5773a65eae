import { spawnSync } from "node:child_process";
import { REFERENCE_CASES, differences } from "../../contract/tests/reference-cases";
import { RunningServer } from "./running-server";

let server: RunningServer;
beforeAll(async () => {
  server = await RunningServer.start({ environment: { WINTER_BEAD_WARM: "1" } });
});
afterAll(() => server.remove());

interface Problem {
  readonly errors?: readonly { readonly path: string; readonly message: string }[];
}

describe("the compute API", () => {
  test.each(REFERENCE_CASES.map((each) => [each.id, each] as const))("%s", async (_id, each) => {
    const { status, body, type } = await server.request("POST", `/api/v1/compute/${each.endpoint}`, each.request);
    if (each.status === 422) {
      expect([status, type]).toEqual([422, "application/problem+json"]);
      expect((body as Problem).errors!.length).toBeGreaterThan(0);
      return;
    }
    expect(status).toBe(200);
    expect(differences(each.expect!, body, each.tolerance ?? {})).toEqual([]);
  });

  test("refuses what is no JSON, no object, too large or nowhere, and never with 500", async () => {
    const tries: readonly [string, string, unknown, number][] = [
      ["POST", "/api/v1/compute/water", "{bad", 400],
      ["POST", "/api/v1/compute/water", "[]", 422],
      ["POST", "/api/v1/compute/water", "null", 422],
      ["POST", "/api/v1/compute/water", "7", 422],
      ["POST", "/api/v1/compute/water", `{"reading":${"[".repeat(5000)}${"]".repeat(5000)}}`, 422],
      ["POST", "/api/v1/compute/water", `"${"x".repeat(2 ** 20)}"`, 413],
      ["POST", "/api/v1/compute/nothing", "{}", 404],
      ["GET", "/api/v1/compute/water", undefined, 405],
      ["POST", "/api/v1/compute/bed", '{"volume":1e999,"diameter":1,"flow":1}', 422],
      ["POST", "/api/v1/compute/water", '{"__proto__":{"a":1}}', 400],
    ];
    for (const [method, path, body, status] of tries) {
      const answer = await server.request(method, path, body);
      expect([path, String(body).slice(0, 20), answer.status, answer.type]).toEqual([
        path,
        String(body).slice(0, 20),
        status,
        "application/problem+json",
      ]);
    }
  });

  test("describes itself as valid OpenAPI 3.1", async () => {
    const { body } = await server.request("GET", "/api/v1/openapi.json");
    const check = `import { Validator } from "@seriousme/openapi-schema-validator"; import { readFileSync } from "node:fs";
      console.log(JSON.stringify(await new Validator().validate(JSON.parse(readFileSync(0, "utf8")))));`;
    const { stdout } = spawnSync(process.execPath, ["--input-type=module", "-e", check], {
      input: JSON.stringify(body),
      encoding: "utf8",
    });
    expect(JSON.parse(stdout)).toEqual({ valid: true });
  });
});
