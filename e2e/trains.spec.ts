import type { Page } from "@playwright/test";
import { unwrap } from "@winter-bead/core";
import { GENERIC_SIZES, optionFigures, planFigures, planQuestion } from "@winter-bead/core/src/sizing";
import { allSent, expect, fill, RunningServer, tapDigits, test } from "./support/app";
import { openAt } from "./support/places";

type Kept = Record<string, unknown> & { readonly id: string; readonly name?: string; readonly version: number };

let server: RunningServer;
let made = 0;
const id = () => `01890000-0000-7000-8000-${(made += 1).toString(16).padStart(12, "0")}`;
const ids = { site: id(), tap: id(), meter: id(), plan: id() };
const DAY = 86_400_000;
/** The first of nineteen days of work; the last was yesterday. */
const START = Date.now() - 19 * DAY;
const iso = (at: number) => new Date(at).toISOString();

const put = async (path: string, body: object) => {
  const { status, body: said } = await server.request("PUT", `/api/v1/${path}`, body);
  expect([status, status < 300 ? "" : JSON.stringify(said)]).toEqual([expect.any(Number), ""]);
};
const list = async (kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as { items: Kept[] }).items;
const toast = (page: Page) => page.getByTestId("toast");

const TAP = { siteId: ids.site, name: "Yard tap", low: 145, typical: 160, high: 180, scale: "nacl" as const };

/** A crew with a tap, a meter, and a plan of two bottles in a row. */
test.beforeAll(async () => {
  server = await RunningServer.start();
  await put(`sites/${ids.site}`, { name: "Ropewalk yard" });
  await put(`taps/${ids.tap}`, TAP);
  await put(`meters/${ids.meter}`, { name: "Pocket", scale: "nacl", compensated: true });
  const waterOf = (value: number) => ({ reading: { value, scale: "nacl" as const } });
  const work = {
    demand: { items: [{ by: "jobs", name: "houses", perWeek: 10, litresEach: 60, quality: "timed" }] },
    waters: { low: waterOf(145), typical: waterOf(160), high: waterOf(180) },
    limit: { value: 10, scale: "nacl" },
    peakFlow: 3,
    until: "meter",
  } as const;
  const question = unwrap(planQuestion(work));
  const { usualFlow: _, ...vessel } = GENERIC_SIZES.find(({ name }) => name === "Large bottle")!;
  const option = { vessel, train: "lead-lag", before: "nothing", grade: "virgin", supply: "bag" } as const;
  const expected = planFigures(unwrap(optionFigures(option, question)), question.demand);
  await put(`plans/${ids.plan}`, {
    ...{ name: "Two in a row", keptAt: iso(START), use: "glass", tapId: ids.tap, jobName: "house", currency: "EUR" },
    ...{ work, option, expected },
  });
});
test.afterAll(async () => server.remove());
test.use({ viewport: { width: 390, height: 664 } });

/** Days of work that were logged elsewhere: what left the lead, and the train. */
async function logged(rigId: string, stages: readonly string[], leads: readonly number[], from: number): Promise<void> {
  for (const [i, lead] of leads.entries()) {
    const reading = (stageId: string, value: number) => ({
      ...{ id: id(), point: "output", stageId, meterId: ids.meter, value },
    });
    await put(`visits/${id()}`, {
      ...{ rigId, tapId: ids.tap, at: iso(from + i * DAY), water: { by: "jobs", jobs: 2, litresPerJob: 60 } },
      readings: [
        reading(stages[0]!, lead),
        reading(stages[1]!, 0),
        { id: id(), point: "feed", meterId: ids.meter, value: 160 },
      ],
    });
  }
}

const trainsOf = async (rigId: string) =>
  (await list("arrangements"))
    .filter((each) => each["rigId"] === rigId)
    .sort((a, b) => (String(a["at"]) < String(b["at"]) ? -1 : 1));
const standing = (arrangement: Kept) =>
  (arrangement["places"] as readonly { readonly vesselId?: string }[]).map(({ vesselId }) => vesselId);

test("a planned train is built, logged at its points, rotated on one phone and seen on another, and looked back on", async ({
  page,
  browser,
}) => {
  await openAt(page, `${server.url}/size/plans/${ids.plan}`);
  await page.getByTestId("build-rig").click();
  await expect(toast(page)).toContainText("hangs on the rack");
  await allSent(page);
  const rig = (await list("rigs")).find(({ name }) => name === "Two in a row")!;
  const stages = (rig["stages"] as readonly { readonly id: string }[]).map((stage) => stage.id);
  const [first] = await trainsOf(rig.id);
  const [a, b] = standing(first!);
  const vessels = new Map((await list("vessels")).map((each) => [each.id, String(each.name)]));
  const [nameA, nameB] = [vessels.get(a!)!, vessels.get(b!)!];

  // It was built today: what was logged since is of the weeks before, so the train is dated back.
  await openAt(page, `${server.url}/setup/train?rig=${rig.id}`);
  await page.getByTestId("deed-at-0").fill(iso(START - DAY).slice(0, 16));
  await expect(toast(page)).toContainText("Dated otherwise");
  await allSent(page);
  for (const charge of await list("charges")) {
    const { id: key, version, voided: _, ...body } = charge;
    await put(`charges/${key}`, { ...body, filledAt: iso(START - DAY / 2), replaces: version });
  }
  await logged(rig.id, stages, [...Array<number>(14).fill(0), 2, 5, 12, 26, 55], START);

  // The lead is spent and the lag still guards: the rack asks for rotation, and says what each act would give.
  await openAt(page, `${server.url}/?rig=${rig.id}`);
  await expect(page.getByTestId("verdict-title")).toContainText("watch: rotate");
  await expect(page.getByTestId("verdict-reason")).toContainText(`${nameB} still guards`);
  await expect(page.getByTestId("worth-rotate")).toContainText("of resin life");
  await expect(page.getByTestId(`bed-column-${nameA}`)).toBeVisible();

  // The log offers the points of this train: four boxes, the pad in sight.
  await page.getByTestId("log-a-reading").click();
  for (const box of ["feed", "behind", "output", "water"])
    await expect(page.getByTestId(`log-${box}`)).toBeInViewport();
  await expect(page.getByTestId("keep-it")).toBeInViewport();
  await page.getByTestId("log-behind").click();
  await tapDigits(page, "80");
  await page.getByTestId("log-output").click();
  await tapDigits(page, "0");
  await page.getByTestId("keep-it").click();
  await expect(toast(page)).toContainText("out 0");
  await allSent(page);
  const visit = (await list("visits")).find(({ readings }) => JSON.stringify(readings).includes('"value":80'))!;
  expect(visit["readings"]).toEqual([
    expect.objectContaining({ point: "output", stageId: stages[0], value: 80 }),
    expect.objectContaining({ point: "output", stageId: stages[1], value: 0 }),
  ]);

  // Refilled and rotated on a second phone, in one act.
  const other = await (await browser.newContext({ viewport: { width: 390, height: 664 } })).newPage();
  await other.goto(`${server.url}/setup/charge?rig=${rig.id}&vessel=${a}`);
  await expect(other.getByTestId("place-after")).toContainText(`Last: ${nameB} leads now`);
  await fill(other, "resinLitres", "11.5");
  await other.getByTestId("save").click();
  await expect(toast(other)).toContainText("is filled");
  await allSent(other);
  const after = await trainsOf(rig.id);
  expect(after.map(({ did }) => did)).toEqual(["hung-in", "rotated"]);
  expect(standing(after[1]!)).toEqual([b, a]);

  await openAt(page, `${server.url}/?rig=${rig.id}`);
  await expect(page.getByTestId("verdict-title")).toContainText("fine");
  const drawn = page.getByTestId("train").locator('[data-testid^="bed-column-"]');
  await expect(drawn.first()).toHaveAttribute("data-testid", `bed-column-${nameB}`);

  // Looked back on vessel by vessel: what was the lag keeps what it had taken behind the lead.
  await openAt(page, `${server.url}/history/${rig.id}?vessel=${b}`);
  await expect(page.getByTestId("history")).toContainText(nameB);
  await expect(page.getByTestId("history").getByTestId("visit-line").first()).toContainText(
    "read behind the one before",
  );
  await page.getByTestId(`bed-${nameA}`).click();
  await expect(page.getByTestId("history").getByRole("heading").first()).toContainText(nameA);

  // And one undo takes all of the rotation back.
  await other.getByTestId("undo").click();
  await expect(toast(other)).toContainText("Undone");
  await allSent(other);
  const back = await trainsOf(rig.id);
  expect(back).toHaveLength(1);
  expect((await list("charges")).filter(({ ended }) => ended !== undefined)).toEqual([]);
  await other.context().close();
});

test("rotated, taken out, hung in, each dated and undone; a stage is dragged, and none is lost", async ({ page }) => {
  const [rigId, a, b] = [id(), id(), id()];
  const vessel = { kind: "inner-seal-bottle", grossVolume: 14, diameter: 180, fillFraction: 0.85 };
  const marks = { watch: 6, limit: 10, hard: 20, scale: "nacl" };
  for (const [key, name] of [
    [a, "First"],
    [b, "Second"],
  ] as const)
    await put(`vessels/${key}`, { ...vessel, name, marks });
  const stages = [id(), id()];
  await put(`rigs/${rigId}`, {
    ...{ name: "Trailer", use: "glass", tapId: ids.tap, flow: 3, jobName: "house", litresPerJob: 60, shape: 2 },
    stages: stages.map((stageId) => ({ id: stageId, kind: "resin" })),
  });
  await put(`arrangements/${id()}`, {
    ...{ rigId, at: iso(START) },
    places: [
      { stageId: stages[0], vesselId: a },
      { stageId: stages[1], vesselId: b },
    ],
  });
  const rig = { id: rigId };
  await openAt(page, `${server.url}/setup/train?rig=${rig.id}`);
  await page.getByTestId("rotate").click();
  await expect(toast(page)).toContainText("rotated");
  await allSent(page);
  expect(standing((await trainsOf(rig.id)).pop()!)).toEqual([b, a]);
  await page.getByTestId("take-out-2").click();
  await expect(toast(page)).toContainText("taken out");
  await allSent(page);
  expect(standing((await trainsOf(rig.id)).pop()!)).toEqual([b, undefined]);
  await page.getByTestId("undo").click();
  await expect(toast(page)).toContainText("Undone");
  await allSent(page);
  expect(standing((await trainsOf(rig.id)).pop()!)).toEqual([b, a]);

  await openAt(page, `${server.url}/setup/rig?id=${rig.id}`);
  await page.getByTestId("add-carbon").click();
  await page.getByTestId("add-sediment").click();
  await expect(page.getByTestId("stage-list").getByRole("listitem")).toHaveCount(4);
  await page.getByTestId("open-stage-0").click();
  await page.getByTestId("stage-0").scrollIntoViewIfNeeded();
  const [from, to] = [
    (await page.getByTestId("grip-1").boundingBox())!,
    (await page.getByTestId("grip-0").boundingBox())!,
  ];
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByTestId("stage-0")).toContainText("Carbon");
  await page.getByTestId("grip-0").focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(page.getByTestId("stage-1")).toContainText("Carbon");
  await page.getByTestId("save").click();
  await expect(toast(page)).toContainText("Kept");
  await allSent(page);
  const kept = (await list("rigs")).find((each) => each.id === rig.id)!;
  const kinds = (kept["stages"] as readonly { readonly kind: string }[]).map(({ kind }) => kind);
  expect(kinds).toEqual(["sediment", "carbon", "resin", "resin"]);
  expect(standing((await trainsOf(rig.id)).pop()!)).toEqual([b, a]);
});

test("a used rig is taken over, its past unknown; its lead is exchanged by a service", async ({ page }) => {
  const [rigId, a, b] = [id(), id(), id()];
  const stages = [id(), id(), id(), id()];
  const vessel = { kind: "inner-seal-bottle", grossVolume: 14, diameter: 180, fillFraction: 0.85 };
  const marks = { watch: 6, limit: 10, hard: 20, scale: "nacl" };
  for (const [key, name] of [
    [a, "Old one"],
    [b, "Older one"],
  ] as const)
    await put(`vessels/${key}`, { ...vessel, name, marks });
  await put(`rigs/${rigId}`, {
    ...{ name: "Bought rig", use: "glass", tapId: ids.tap, flow: 3, jobName: "house", litresPerJob: 60, shape: 2 },
    stages: stages.map((stageId, i) => ({ id: stageId, kind: ["sediment", "carbon", "resin", "resin"][i] })),
  });
  await put(`arrangements/${id()}`, {
    ...{ rigId, at: iso(START) },
    places: [
      { stageId: stages[2], vesselId: a },
      { stageId: stages[3], vesselId: b },
    ],
  });
  const own = async (kind: string) => (await list(kind)).filter((each) => each["rigId"] === rigId);
  const deeds = async () => (await trainsOf(rigId)).map(({ did }) => did);

  // Cartridges that nobody knows are not called new: only the charges begin, part-used.
  await openAt(page, `${server.url}/setup/train?rig=${rigId}`);
  await page.getByTestId("taken-over").getByText("Nobody knows").click();
  await page.getByTestId("take-over").click();
  await expect(toast(page)).toContainText("taken over used");
  await allSent(page);
  expect(await own("services")).toEqual([]);
  await page.getByTestId("undo").click();
  await expect(toast(page)).toContainText("Undone");
  await allSent(page);
  expect([await own("charges"), await deeds()]).toEqual([[], [undefined]]);

  await page.getByTestId("taken-over").getByText("New from now on").click();
  await page.getByTestId("take-over").click();
  await expect(toast(page)).toContainText("taken over used");
  await allSent(page);
  expect((await own("services")).map(({ part }) => part).sort()).toEqual(["carbon", "sediment"]);
  const used = { grade: "virgin", partUsed: { by: "unknown" } };
  expect(await own("charges")).toEqual([expect.objectContaining(used), expect.objectContaining(used)]);
  await expect(page.getByTestId("taken-over")).toHaveCount(0);

  // The service takes the lead's charge away; regenerated resin comes, and the train keeps what was done.
  await openAt(page, `${server.url}/refill?rig=${rigId}&what=exchange&vessel=${a}`);
  for (;;) {
    await expect(page.getByTestId("step-title").or(page.getByTestId("finish"))).toBeVisible();
    if (await page.getByTestId("finish").isVisible()) break;
    const title = (await page.getByTestId("step-title").textContent())!;
    await page.getByTestId("step-done").click();
    await expect(page.getByTestId("step-title").filter({ hasText: title })).toHaveCount(0);
  }
  await expect(page.getByTestId("new-charge")).toContainText("regenerated");
  await page.getByText("Early, on purpose").click();
  await page.getByTestId("finish").click();
  await expect(page.getByTestId("verdict-title")).toContainText("Bought rig");
  await allSent(page);
  expect(await deeds()).toEqual([undefined, "taken-over", "exchanged"]);
  expect(standing((await trainsOf(rigId)).pop()!)).toEqual([b, a]);
  const open = (await own("charges")).filter(({ ended }) => ended === undefined);
  expect(open.map(({ vesselId, grade }) => [vesselId, grade])).toEqual(
    expect.arrayContaining([
      [a, "regenerated"],
      [b, "virgin"],
    ]),
  );

  // Both taken out, the rack asks for a vessel and says where one is hung in.
  await openAt(page, `${server.url}/setup/train?rig=${rigId}`);
  for (const place of [1, 2]) {
    await page.getByTestId(`take-out-${place}`).click();
    await expect(page.getByTestId(`take-out-${place}`)).toHaveCount(0);
  }
  await allSent(page);
  await openAt(page, `${server.url}/?rig=${rigId}`);
  await expect(page.getByTestId("verdict")).toContainText("No vessel stands in this rig: hang one in.");
  await page.getByTestId("to-hang-in").click();
  await expect(page.getByTestId("place-1")).toContainText("nobody stands here");
});
