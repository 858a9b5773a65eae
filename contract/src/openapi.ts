import { z } from "zod";
import { COMPUTE, type ComputeName, type Endpoint } from "./compute";
import { DOCUMENTED } from "./documented";
import { problem } from "./problem";
import { KINDS, type Kind } from "@winter-bead/core";
import { act, DEVICE_HEADER } from "./acts";
import { schemaOfKind } from "./from-descriptor";
import { calendarPaths } from "./openapi-calendar";
import { supplierReport, supplierZones } from "./supplier";

type Json = { readonly [key: string]: unknown };

/** JSON Schema 2020-12 of a schema, its named parts inlined, without the dialect line. */
function jsonSchema(schema: z.ZodType, io: "input" | "output" = "input"): Json {
  const { $schema: _dialect, ...rest } = z.toJSONSchema(schema, {
    io,
    reused: "inline",
    unrepresentable: "any",
  }) as Json & { $schema?: string };
  return inlineDefinitions(rest);
}

function inlineDefinitions(schema: Json): Json {
  const definitions = (schema["$defs"] ?? {}) as { [name: string]: Json };
  const visit = (node: unknown): unknown => {
    if (Array.isArray(node)) return node.map(visit);
    if (node === null || typeof node !== "object") return node;
    const reference = (node as Json)["$ref"];
    if (typeof reference === "string" && reference.startsWith("#/$defs/"))
      return visit(definitions[reference.slice("#/$defs/".length)]);
    return Object.fromEntries(
      Object.entries(node)
        .filter(([key]) => key !== "$defs" && key !== "id")
        .map(([key, value]) => [key, visit(value)]),
    );
  };
  return visitTop(schema, visit);
}

const visitTop = (schema: Json, visit: (node: unknown) => unknown) => visit({ ...schema, $defs: undefined }) as Json;

const json = (schema: Json, example?: object) => ({ "application/json": { schema, ...(example ? { example } : {}) } });
const problemResponse = (description: string) => ({
  description,
  content: { "application/problem+json": { schema: { $ref: "#/components/schemas/Problem" } } },
});

function computePath(name: ComputeName, { summary, request, answer, heavy }: Endpoint): Json {
  const { about, example } = DOCUMENTED[name];
  return {
    post: {
      operationId: `compute-${name}`,
      summary,
      description: about,
      tags: ["compute"],
      requestBody: { required: true, content: json(jsonSchema(request), example) },
      responses: {
        "200": { description: "The answer", content: json(jsonSchema(answer, "output")) },
        "413": problemResponse("The body is over 1 MiB"),
        "422": problemResponse("Bad input, with a sentence for each field"),
        ...(heavy
          ? { "503": problemResponse("Too many such runs at once, or stopped after ten seconds; see Retry-After") }
          : {}),
      },
    },
  };
}

const supplierResponses = (answer: z.ZodType) => ({
  "200": { description: "As the supplier's service gave it, checked for its form", content: json(jsonSchema(answer)) },
  "404": problemResponse("No such zone or date"),
  "422": problemResponse("A date that is none"),
  "502": problemResponse("The supplier's service is out of order, or answered no report"),
  "504": problemResponse("The supplier's service takes too long"),
});

const SUPPLIER_PATHS = {
  "/api/v1/supplier/zones": {
    get: {
      operationId: "supplier-zones",
      summary: "Zones of the water supplier's report service",
      tags: ["supplier"],
      responses: supplierResponses(z.object({ items: supplierZones })),
    },
  },
  "/api/v1/supplier/zones/{zone}/report": {
    get: {
      operationId: "supplier-report",
      summary: "A zone's water report; names and units are the supplier's own",
      tags: ["supplier"],
      parameters: [
        { name: "zone", in: "path", required: true, schema: { type: "string" } },
        {
          name: "on",
          in: "query",
          description: "The newest sample up to this date",
          schema: { type: "string", format: "date" },
        },
      ],
      responses: supplierResponses(supplierReport),
    },
  },
};

/** Expected trouble, one sentence: the store restarts, its disk is full, too much is asked at once, or a commit is uncertain. */
const AGAIN = problemResponse(
  "Ask again; see Retry-After. After an uncertain commit the sentence says so: sending again doubles nothing",
);
const NOT_CHANGED = { description: "As the ETag of If-None-Match has it" };

const GENERAL_PATHS = {
  "/api/v1/health": {
    get: {
      operationId: "health",
      summary: "Whether the records can be reached",
      tags: ["server"],
      responses: {
        "200": {
          description: "They can",
          content: json({ type: "object", properties: { ready: { const: true } }, required: ["ready"] }),
        },
        "503": AGAIN,
      },
    },
  },
  "/api/v1/example": {
    get: {
      operationId: "example",
      summary: "The records of an invented crew, to look at; kept nowhere",
      tags: ["server"],
      responses: {
        "200": {
          description: "Each record by its kind, ending today",
          content: json({
            type: "object",
            properties: {
              items: {
                type: "array",
                items: {
                  type: "object",
                  properties: { kind: { type: "string" }, id: { type: "string" }, body: { type: "object" } },
                  required: ["kind", "id", "body"],
                },
              },
            },
            required: ["items"],
          }),
        },
      },
    },
  },
  "/api/v1/addresses": {
    get: {
      operationId: "addresses",
      summary: "Further addresses this server goes by, for a phone",
      tags: ["server"],
      responses: {
        "200": {
          description: "Addresses with TLS, as named in WINTER_BEAD_HOSTS",
          content: json({ type: "object", properties: { items: { type: "array", items: { type: "string" } } } }),
        },
      },
    },
  },
};

const idParameter = {
  name: "id",
  in: "path",
  required: true,
  description: "UUID made by the client",
  schema: { type: "string", format: "uuid" },
};

/** A record as it is kept: its own fields, its id, its version and whether it was taken back. */
const keptSchema = (kind: Kind): Json =>
  jsonSchema(schemaOfKind(kind, { id: z.uuid(), version: z.int().min(1), voided: z.boolean() }), "output");

const deviceParameter = {
  name: DEVICE_HEADER,
  in: "header",
  description: "Which device this is, a UUID: the author of what it keeps, until there are accounts",
  schema: { type: "string", format: "uuid" },
};

const KEPT_BY_ACT = {
  type: "object",
  properties: {
    id: { type: "string" },
    at: { type: "string" },
    what: { type: "string" },
    records: { type: "array", items: { type: "object", properties: { kind: { type: "string" }, record: {} } } },
  },
};

const ACT_PATHS = {
  "/api/v1/acts/{id}": {
    put: {
      operationId: "put-act",
      summary: "Keep what belongs together, all of it or nothing; sending it again changes nothing",
      description:
        "Each put keeps a new record (a body), changes one (`replaces` and a body) or takes one back (`replaces` and `voided: true`, without a body). A body of an earlier `shape` is read as one of today's. Undoing is another act, with `undoes`.",
      tags: ["records"],
      parameters: [idParameter, deviceParameter],
      requestBody: { required: true, content: json(jsonSchema(act)) },
      responses: {
        "200": { description: "Kept before", content: json(KEPT_BY_ACT) },
        "201": { description: "Kept", content: json(KEPT_BY_ACT) },
        "404": problemResponse("A record to change is not there"),
        "409": problemResponse(
          "Another act under this id, a stale version, or something in use names what was to be taken back (`urn:winter-bead:in-use`, with the way out)",
        ),
        "413": problemResponse("The body is over 1 MiB; the connection is closed"),
        "422": problemResponse(
          "Bad input; or, as `urn:winter-bead:newer-shape`, a body of a later shape than this server knows: keep it and send it again",
        ),
        "503": AGAIN,
      },
    },
  },
};

const VERSION = {
  type: "object",
  properties: {
    version: { type: "integer" },
    voided: { type: "boolean" },
    body: { type: "object", description: "Absent where this version took the record back" },
    seq: { type: "integer", description: "The crew's number of this version" },
    act: { type: "object", properties: { id: { type: "string" }, what: { type: "string" }, at: { type: "string" } } },
    author: { type: "string", description: "Absent where the device did not say" },
    acceptedAt: { type: "string" },
  },
};

function recordPaths(described: Kind): Json {
  const kind = described.name;
  const body = {
    allOf: [jsonSchema(schemaOfKind(described))],
    description:
      "To change a record add `replaces` (the version you started from); to take it back send `replaces` and `voided: true` alone. `shape` is the shape of the body, 1 where it is left out.",
  };
  return {
    [`/api/v1/${kind}`]: {
      get: {
        operationId: `list-${kind}`,
        summary: `All ${described.many} of the crew, oldest first`,
        tags: ["records"],
        parameters: [
          { name: "after", in: "query", description: "Where the last page ended", schema: { type: "string" } },
          { name: "limit", in: "query", schema: { type: "integer", minimum: 1, maximum: 1000 } },
        ],
        responses: {
          "200": {
            description: "A page",
            content: json({
              type: "object",
              properties: {
                items: { type: "array", items: keptSchema(described) },
                shape: { type: "integer", description: "Of the bodies: a later one than you know you must not read" },
                next: { type: "string" },
              },
            }),
          },
          "304": NOT_CHANGED,
          "422": problemResponse("Bad cursor or limit"),
          "503": AGAIN,
        },
      },
    },
    [`/api/v1/${kind}/{id}`]: {
      get: {
        operationId: `get-${kind}`,
        summary: "One record",
        tags: ["records"],
        parameters: [idParameter],
        responses: {
          "200": { description: "The record", content: json(keptSchema(described)) },
          "304": NOT_CHANGED,
          "404": problemResponse("No such record"),
          "503": AGAIN,
        },
      },
      put: {
        operationId: `put-${kind}`,
        summary: "Keep a record; sending it again changes nothing",
        tags: ["records"],
        parameters: [idParameter, deviceParameter],
        requestBody: { required: true, content: json(body as unknown as Json) },
        responses: {
          "200": { description: "Kept before, or a new version", content: json(keptSchema(described)) },
          "201": { description: "Kept", content: json(keptSchema(described)) },
          "409": problemResponse("Another body under this id, or a stale version; both stand in the answer"),
          "413": problemResponse("The body is over 1 MiB; the connection is closed"),
          "422": problemResponse("Bad input"),
          "503": AGAIN,
        },
      },
    },
    [`/api/v1/${kind}/{id}/versions`]: {
      get: {
        operationId: `versions-${kind}`,
        summary: "Every version of a record",
        tags: ["records"],
        parameters: [idParameter],
        responses: {
          "200": { description: "Versions, oldest first", content: json({ type: "array", items: VERSION }) },
          "304": NOT_CHANGED,
          "404": problemResponse("No such record"),
          "503": AGAIN,
        },
      },
    },
  };
}

/** The OpenAPI 3.1 document of the whole API, made from the schemas that check its requests. */
export function openApiDocument(): Json {
  const compute = Object.entries(COMPUTE).map(([name, each]) => [
    `/api/v1/compute/${name}`,
    computePath(name as ComputeName, each),
  ]);
  return {
    openapi: "3.1.0",
    info: {
      title: "Winter Bead",
      version: "1.0.0",
      description:
        "Units: L, L/min, mm, °C, kPa, µS/cm at 25 °C (ec25), mg/L, meq/L (load), eq per litre of mixed resin (capacity), minutes, days. A host that this server does not go by gets 421, a page of another site 403. Every answer carries X-Request-Id.",
      license: { name: "MIT", identifier: "MIT" },
    },
    servers: [{ url: "/" }],
    paths: {
      ...Object.fromEntries(compute),
      ...SUPPLIER_PATHS,
      ...GENERAL_PATHS,
      ...ACT_PATHS,
      ...calendarPaths(problemResponse, AGAIN),
      ...Object.assign({}, ...Object.values(KINDS).map(recordPaths)),
    },
    components: { schemas: { Problem: jsonSchema(problem, "output") } },
  };
}
