import type { Act, Page, Problem, RecordKind, RecordTypes, Stored } from "@winter-bead/contract";
import { KINDS, type Id } from "@winter-bead/core";
import { currentShape } from "@winter-bead/core/src/descriptor/kind";
import { heardTime } from "./clock";
import { thisDevice } from "./device";
import { isExample } from "./example";
import { reach } from "./reach";
import { sawNewerShape } from "./newer-shape";

/** The server could not be asked: no signal, or it is starting again. Trying later will do. */
export class OutOfReach extends Error {}

/** What the server has is of a later shape than this page knows. */
export class NewerShape extends Error {}

/** The server read the request and will not take it. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problem: Problem,
  ) {
    super(problem.detail ?? problem.title);
  }
}

const BASE = "/api/v1";
const TRY_AGAIN = new Set([408, 425, 429, 500, 502, 503, 504]);

const isJson = (response: Response) => /json/.test(response.headers.get("content-type") ?? "");

interface Answer {
  readonly status: number;
  readonly ok: boolean;
  readonly body: unknown;
}

/** A whole answer: one that is cut short is none. */
async function receive(path: string, init?: RequestInit): Promise<Answer | undefined> {
  const askedAt = Date.now();
  const response = await fetch(`${BASE}${path}`, init);
  if (isJson(response)) heardTime(response.headers.get("date"), askedAt);
  return isJson(response) ? { status: response.status, ok: response.ok, body: await response.json() } : undefined;
}

/** The answer itself, and what it tells of the server's reach. */
async function askOnce(path: string, init?: RequestInit): Promise<Answer> {
  let answer: Answer | undefined;
  try {
    answer = await receive(path, init);
  } catch (error) {
    if (init?.signal?.aborted) throw error;
    reach.lost("no-signal");
    throw new OutOfReach("The server is out of reach.");
  }
  if (!answer) {
    reach.lost("no-signal");
    throw new OutOfReach("Something else answered in the server's place.");
  }
  if (TRY_AGAIN.has(answer.status)) {
    const { title } = answer.body as Problem;
    reach.lost("busy", title);
    throw new OutOfReach(title);
  }
  reach.reached();
  return answer;
}

/** Of nobody's crew: all else would tell of the own crew, or change it. */
const ASKED_IN_EXAMPLE: ReadonlySet<string> = new Set(["/example", "/addresses"]);

/** Asks the server; one answer of the turn tells whether it is in reach. @throws OutOfReach, Refused */
export async function ask<T>(path: string, init?: RequestInit): Promise<T> {
  if (isExample && !ASKED_IN_EXAMPLE.has(path))
    throw new Refused(403, {
      type: "about:blank",
      title: "This is an example crew: nothing leaves it",
      status: 403,
      detail: "Leave the example to do this for your own crew.",
    });
  let asked: Promise<Answer> | undefined;
  await reach.turn(() => (asked = askOnce(path, init)));
  if (!asked && reach.snapshot().state === "lost") throw new OutOfReach("The server is out of reach.");
  const { ok, status, body } = await (asked ?? askOnce(path, init));
  if (!ok) throw new Refused(status, body as Problem);
  return body as T;
}

export type Kept<K extends RecordKind = RecordKind> = Stored<RecordTypes[K]>;

const PAGE = 1000;

interface ExampleEntry {
  readonly kind: RecordKind;
  readonly id: Id;
  readonly body: object;
}
let example: Promise<{ readonly items: readonly ExampleEntry[] }> | undefined;

/** The invented crew's records of a kind, fetched once for all kinds. */
async function fetchExample<K extends RecordKind>(kind: K): Promise<readonly Kept<K>[]> {
  example ??= ask("/example");
  const { items } = await example.catch((error: unknown) => {
    example = undefined;
    throw error;
  });
  return items
    .filter((entry) => entry.kind === kind)
    .map(({ id, body }) => ({ ...body, id, version: 1, voided: false }) as unknown as Kept<K>)
    .sort((a, b) => (a.id < b.id ? -1 : 1));
}

/** Every record of a kind, page by page. */
export async function fetchAll<K extends RecordKind>(kind: K, signal?: AbortSignal): Promise<readonly Kept<K>[]> {
  if (isExample) return fetchExample(kind);
  const all: Kept<K>[] = [];
  let after: string | undefined;
  do {
    const page: Page<Kept<K>> = await ask(`/${kind}?limit=${PAGE}${after ? `&after=${after}` : ""}`, { signal });
    if (page.shape > currentShape(KINDS[kind])) {
      sawNewerShape();
      throw new NewerShape("These were kept by a newer Winter Bead than this page.");
    }
    all.push(...page.items);
    after = page.next;
  } while (after !== undefined);
  return all;
}

/** A record as an act left it. */
export interface KeptByAct {
  readonly kind: RecordKind;
  readonly record: Kept;
}

/** Keeps an act, whole or not at all; sending it again changes nothing. */
export const putAct = (id: Id, act: Act): Promise<{ readonly records: readonly KeptByAct[] }> =>
  ask(`/acts/${id}`, {
    method: "PUT",
    headers: { "Content-Type": "application/json", "Winter-Bead-Device": thisDevice() },
    body: JSON.stringify(act),
  });

/** A record as the server has it, taken back or not. */
export const fetchRecord = <K extends RecordKind>(kind: K, id: string, signal?: AbortSignal) =>
  ask<Kept<K>>(`/${kind}/${id}`, signal ? { signal } : {});

/** One accepted version of a record. */
export interface Version<K extends RecordKind> {
  readonly version: number;
  readonly voided: boolean;
  /** Absent where this version took the record back. */
  readonly body?: Omit<RecordTypes[K], "id">;
  readonly act: { readonly id: Id; readonly what: string; readonly at: string };
  readonly author?: string;
  readonly acceptedAt: string;
}

/** Every version of a record, oldest first; only the server knows them. */
export const fetchVersions = <K extends RecordKind>(kind: K, id: string, signal?: AbortSignal) =>
  ask<readonly Version<K>[]>(`/${kind}/${id}/versions`, signal ? { signal } : {});

/** Further addresses that this server was told to go by. */
export const fetchAddresses = async (signal?: AbortSignal): Promise<readonly string[]> =>
  (await ask<{ items: readonly string[] }>("/addresses", signal ? { signal } : {})).items;
