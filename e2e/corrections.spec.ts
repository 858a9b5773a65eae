import { allSent, choose, expect, fill, press, RunningServer, tapDigits, test } from "./support/app";

interface Listed {
  readonly items: readonly { readonly id: string; readonly name: string }[];
}
const list = async (server: RunningServer, kind: string) =>
  ((await server.request("GET", `/api/v1/${kind}?limit=1000`)).body as Listed).items;
const rigNamed = async (server: RunningServer, name: string) =>
  (await list(server, "rigs")).find((rig) => rig.name === name)!.id;

test("a visit taken back leaves the ledger, and comes again with one tap", async ({ page, demo }) => {
  await page.goto(`${demo.url}/history/${await rigNamed(demo, "Van")}`);
  const lines = page.getByTestId("visit-line");
  await expect(lines.first()).toBeVisible();
  const before = await lines.count();
  await lines
    .first()
    .getByRole("button", { name: /^Take back the visit/ })
    .click();
  await expect(lines).toHaveCount(before - 1);
  await page.getByTestId("undo").click();
  await expect(lines).toHaveCount(before);
});

test("correcting a meter's scale corrects its history", async ({ page, demo }) => {
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-reason")).toContainText(/Out 1\d(\.\d)? ppm 442/);
  const before = await page.getByTestId("verdict-reason").innerText();
  const meter = (await list(demo, "meters")).find((each) => each.name === "Bay meter")!.id;
  await page.goto(`${demo.url}/setup/meter?id=${meter}`);
  await choose(page, "ppm NaCl");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("toast")).toContainText("Its history reads by the new scale");
  await allSent(page);
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-reason")).toContainText(/Out 1\d(\.\d)? ppm NaCl/);
  await expect(page.getByTestId("verdict-reason")).not.toHaveText(before);
  await page.goto(`${demo.url}/setup/meter?id=${meter}`);
  await choose(page, "ppm 442");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("toast")).toContainText("Its history reads by the new scale");
  await allSent(page);
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-reason")).toHaveText(before);
});

test("a form says what is wrong at its field, keeps the rest, and keeps it through a closed tab", async ({
  page,
  demo,
}) => {
  await page.goto(`${demo.url}/setup/tap`);
  await fill(page, "name", "Harbour tap");
  await fill(page, "low", "200");
  await fill(page, "typical", "150");
  await fill(page, "high", "lots");
  await page.getByTestId("save").click();
  await expect(page.getByText("is not a number yet").first()).toBeVisible();
  await fill(page, "high", "250");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("form-trouble")).toContainText("must rise in that order");
  await page.reload();
  await expect(page.getByTestId("field-name")).toHaveValue("Harbour tap");
  await fill(page, "low", "120");
  await page.getByTestId("save").click();
  await expect(page.getByRole("link", { name: /^Harbour tap/ })).toContainText("120 to 250");
});

test("a vessel measured by diameter and height is as large as its cylinder", async ({ page }) => {
  // A fourth rig changes the look of the rack, so this one has a server of its own.
  const server = await RunningServer.start({ flags: [] });
  await page.goto(`${server.url}/setup/rig`);
  await fill(page, "name", "Cart");
  await choose(page, "Diameter and height");
  await fill(page, "height", "550");
  await fill(page, "diameter", "180");
  await fill(page, "fillFraction", "80");
  await expect(page.getByText("Holds 11.2 L of resin")).toBeVisible();
  await page.getByTestId("save").click();
  await expect(page.getByText("Fill Cart vessel")).toBeVisible();
  await expect(page.getByTestId("field-resinLitres")).toHaveValue("11.2");
  await fill(page, "resinLitres", "20");
  await page.getByTestId("save").click();
  await expect(page.getByTestId("form-trouble")).toContainText("The vessel holds 14 L inside");
  await fill(page, "resinLitres", "11");
  await page.getByTestId("save").click();
  await expect(page.getByRole("button", { name: /^Cart/ })).toBeVisible();
  await page.goto("about:blank");
  await server.remove();
});

test("a second look is asked for, not forced: a strange feed, a fallen total, a new meter", async ({ page, demo }) => {
  await page.goto(`${demo.url}/log/${await rigNamed(demo, "Van")}`);
  await page.getByTestId("log-feed").click();
  await tapDigits(page, "900");
  await expect(page.getByText(/Far from what .* usually gives/)).toBeVisible();
  await expect(page.getByTestId("keep-it")).toBeEnabled();
  await page.getByTestId("log-water").click();
  await tapDigits(page, "12");
  await expect(page.getByRole("alert")).toHaveText(/Below the last total/);
  await expect(page.getByTestId("keep-it")).toBeDisabled();
  await press(page, "It is a new meter, started at 0");
  await expect(page.getByTestId("keep-it")).toBeEnabled();
});

test("two tabs share one queue: a reading kept in one is seen in the other", async ({ page, context, demo }) => {
  await page.goto(demo.url);
  await expect(page.getByTestId("verdict-title")).toBeVisible();
  const other = await context.newPage();
  await other.goto(demo.url);
  await expect(other.getByTestId("verdict-title")).toBeVisible();
  await other.getByRole("button", { name: /^Quarantine:/ }).click();
  const visits = (await list(demo, "visits")).length;
  await page.bringToFront();
  await page.getByRole("button", { name: /^Quarantine:/ }).click();
  await page.getByTestId("log-a-reading").click();
  await tapDigits(page, "0.3");
  await page.getByTestId("keep-it").click();
  await expect.poll(async () => (await list(demo, "visits")).length).toBe(visits + 1);
  await page.getByTestId("undo").click();
  await expect.poll(async () => (await list(demo, "visits")).length).toBe(visits);
  await allSent(other);
});
