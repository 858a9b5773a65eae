import { act, fireEvent, screen } from "@testing-library/react";
import { describeReport, unwrap } from "@winter-bead/core";
import { bandsOf, BedDrawing, bedWidth, frameAt } from "../features/lab/BedDrawing";
import { labCsv } from "../features/lab/export";
import { labWater, parseLab, SAMPLE_WATER, startLab } from "../features/lab/lab-setup";
import { filmLitres, LabResults } from "../features/lab/LabResults";
import { runVariant, type LabRun } from "../features/lab/lab-run";
import { Player } from "../features/lab/player";
import { labQuestions, VARIANTS, type LabSetup, type Variant } from "../features/lab/variants";
import { answerLives, tellsUnseen } from "../features/size/lives";
import { parse, startWith } from "../features/size/typed";
import { inApp } from "./in-app";

const water = labWater(SAMPLE_WATER, unwrap(describeReport(SAMPLE_WATER)))!;
const setup: LabSetup = { ...parseLab(startLab("metric"), water, "metric").setup!, cells: 30 };
const always = () => Promise.resolve(true);

async function run(variant: Variant, of: LabSetup = setup): Promise<LabRun> {
  const outcome = await runVariant(labQuestions(of, [variant])[0]!, always);
  if (!outcome || "fault" in outcome) throw new Error("the run failed");
  return outcome.run;
}

describe("variants of one bed", () => {
  test("every variant can be run, balances, and keeps frames from the first to the last litre", async () => {
    for (const variant of VARIANTS) {
      const result = await run(variant);
      expect([variant, result.balanceError < 1e-9]).toEqual([variant, true]);
      expect(result.frames).toHaveLength(180);
      expect(result.frames[179]!.litres).toBeCloseTo(result.totalLitres, 6);
      expect(result.litres).toHaveLength(result.ppm.length);
    }
  }, 60_000);

  test("what should help helps, and what should harm harms", async () => {
    const life = async (variant: Variant) => (await run(variant)).ends.litresToLimit ?? Infinity;
    const leak = async (variant: Variant) => (await run(variant)).ends.litresToSilica!;
    const base = await life("as-it-is");
    expect(await life("regenerated")).toBeLessThan(base);
    expect(await life("two-in-series")).toBeGreaterThan(1.8 * base);
    expect(await life("after-ro")).toBeGreaterThan(4 * base);
    expect(await life("on-its-side")).toBeLessThan(base);
    expect(await leak("aerated")).toBeGreaterThan(await leak("as-it-is"));
    expect(await leak("half-flow")).toBeGreaterThan(await leak("as-it-is"));
  }, 60_000);

  test("lead and lag changes the lead when it alone is spent, and lasts beyond", async () => {
    const [alone, changed] = [await run("as-it-is"), await run("lead-lag")];
    expect(changed.changedAt!).toBeCloseTo(alone.ends.litresToLimit!, 0);
    expect(changed.ends.litresToLimit ?? changed.totalLitres).toBeGreaterThan(1.5 * changed.changedAt!);
    expect(changed.resin).toBeCloseTo(3 * setup.bed.resin, 9);
  }, 60_000);

  test("given up on the way it answers nothing and works no further", async () => {
    let slices = 0;
    const outcome = await runVariant(labQuestions(setup, ["as-it-is"])[0]!, (progress) => {
      slices += 1;
      return Promise.resolve(progress < 0.3);
    });
    expect(outcome).toBeUndefined();
    const whole: number[] = [];
    await runVariant(labQuestions(setup, ["as-it-is"])[0]!, (progress) => Promise.resolve(whole.push(progress) > 0));
    expect(slices).toBeLessThan(whole.length / 2);
    expect([...whole].sort((a, b) => a - b)).toEqual(whole);
  });

  test("what can't be run is a fault with a sentence", async () => {
    const [question] = labQuestions({ ...setup, limit: { value: -1, scale: "nacl" } }, ["as-it-is"]);
    expect(await runVariant(question!, always)).toHaveProperty("fault.message");
  });
});

describe("the bench as typed", () => {
  test("in gallons and inches it is the same bed", () => {
    const metric = parseLab(startLab("metric"), water, "metric").setup!;
    const us = parseLab(startLab("us"), water, "us").setup!;
    expect(us.bed.resin / metric.bed.resin).toBeCloseTo(1, 2);
    expect(us.bed.diameter / metric.bed.diameter).toBeCloseTo(1, 2);
    expect(us.litresPerDay / metric.litresPerDay).toBeCloseTo(1, 2);
  });

  test("a wrong field has its sentence, an empty mark is no mark", () => {
    const wrong = parseLab({ ...startLab("metric"), flow: "fast", silica: "-1" }, water, "metric");
    expect(wrong.setup).toBeUndefined();
    expect(Object.keys(wrong.errors).sort()).toEqual(["flow", "silica"]);
    expect(parseLab({ ...startLab("metric"), ammonia: "" }, water, "metric").setup!.marks).toEqual({ silica: 1 });
  });
});

describe("the picture of the bed", () => {
  const half = { x: 10, width: 50, y: 0, height: 100, mirrored: false };
  const ions = ["na", "nh4", "k", "mg", "ca", "h"] as const;

  test("a fresh bed has no band, a full one a single band as wide as the half, with its name in the middle", () => {
    const fresh = new Float32Array(60).map((_, i) => (i % 6 === 5 ? 1 : 0));
    expect(bandsOf({ ...half, shares: fresh, ions })).toEqual([]);
    const full = new Float32Array(60).map((_, i) => (i % 6 === 4 ? 1 : 0));
    const [band, ...others] = bandsOf({ ...half, shares: full, ions });
    expect([band!.ion, band!.labelY, others.length]).toEqual(["ca", 50, 0]);
    expect(band!.path).toMatch(/^M60\.0 0\.0.*L10\.0 100\.0.*Z$/);
  });

  test("anions grow from the right wall", () => {
    const full = new Float32Array(60).map((_, i) => (i % 6 === 4 ? 0.5 : 0));
    expect(bandsOf({ ...half, mirrored: true, shares: full, ions })[0]!.path).toMatch(/^M35\.0 /);
  });

  test("the frame nearest to a litre is shown", async () => {
    const result = await run("as-it-is");
    expect(frameAt(result, 0)).toBe(result.frames[0]);
    expect(frameAt(result, 1e9)).toBe(result.frames[179]);
    const wanted = result.frames[90]!.litres;
    expect(frameAt(result, wanted + 0.1)).toBe(result.frames[90]);
  });

  test("it follows the player", async () => {
    const result = await run("separate");
    const player = new Player();
    inApp(
      <BedDrawing run={result} until={result.totalLitres} player={player} width={bedWidth(result, 600)} label="bed" />,
    );
    const litres = () => Number(screen.getByTestId("lab-bed").getAttribute("data-litres"));
    expect(litres()).toBe(0);
    act(() => player.seek(0.5));
    expect(Math.abs(litres() - result.totalLitres / 2)).toBeLessThan(1);
  });
});

describe("the film", () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  test("plays to its end, can be held and moved, and starts again from the start", () => {
    const player = new Player(2);
    let told = 0;
    const off = player.subscribe(() => (told += 1));
    player.play();
    jest.advanceTimersByTime(1000);
    expect(player.position()).toBeGreaterThan(0.4);
    expect(player.position()).toBeLessThan(0.6);
    player.pause();
    const held = player.position();
    jest.advanceTimersByTime(500);
    expect([player.position(), player.isPlaying()]).toEqual([held, false]);
    player.seek(1.7);
    expect(player.position()).toBe(1);
    player.play();
    expect(player.position()).toBe(0);
    jest.advanceTimersByTime(3000);
    expect([player.position(), player.isPlaying()]).toEqual([1, false]);
    off();
    const before = told;
    player.seek(0);
    expect(told).toBe(before);
  });
});

describe("results", () => {
  test("say each life and the difference in litres and days, and shade no more than is silent", async () => {
    const runs = [await run("as-it-is"), await run("two-in-series")];
    inApp(<LabResults runs={runs} setup={setup} />);
    expect(screen.getByTestId("meter-life-as-it-is").textContent).toMatch(/^[\d,]+ L$/);
    expect(screen.getByTestId("outcome-as-it-is").textContent).toMatch(/For [\d,]+ L \(\d+ days?\) silica leaks/);
    expect(screen.getByTestId("outcome-two-in-series").textContent).toMatch(/limit comes [\d,]+ L \(\d+ days\) more/);
    const play = screen.getByTestId("lab-play");
    expect(play.getAttribute("aria-label")).toBe("Pause");
    fireEvent.click(play);
    expect(play.getAttribute("aria-label")).toBe("Play");
    fireEvent.change(screen.getByTestId("lab-slider"), { target: { value: "500" } });
    expect(screen.getByTestId("lab-now").textContent).toMatch(/^[\d,]+ L$/);
  }, 30_000);

  test("a bed that lasts many times longer is cut off where the shown one would be squeezed", async () => {
    const [short, long] = [await run("as-it-is"), await run("after-ro")];
    expect(filmLitres([short, long], short)).toBeLessThan(4 * short.ends.litresToLimit!);
    expect(filmLitres([short, long], long)).toBeGreaterThan(4 * short.ends.litresToLimit!);
  });

  test("as CSV each row has its units in the head and reads back to the run", async () => {
    const result = await run("as-it-is");
    const [head, ...rows] = labCsv([result], "nacl").trim().split("\n");
    expect(head).toBe('variant,"litres, L","product, ppm NaCl",pH,"silica, mg/L as SiO2","ammonia, mg/L as NH4"');
    expect(rows).toHaveLength(result.litres.length);
    expect(Number(rows[100]!.split(",")[2])).toBeCloseTo(result.ppm[100]!, 3);
  });
});

describe("two lives on the planner", () => {
  const question = (part: object) => parse({ ...startWith("metric"), ...part }, "metric", undefined).question!;

  test("are only worked out when something unseen is known", () => {
    expect(tellsUnseen(question({}))).toBe(false);
    expect(tellsUnseen(question({ alkalinity: "120" }))).toBe(false);
    expect(tellsUnseen(question({ alkalinity: "120", ph: "7.2" }))).toBe(true);
    expect(tellsUnseen(question({ silica: "6" }))).toBe(true);
  });

  test("the meter's comes after the first leak, and a harder feed shortens both", () => {
    const lives = answerLives(question({ alkalinity: "120", ph: "7.2", silica: "7" }))!;
    expect(lives.assumed).toBe(true);
    expect(lives.untilMeter!.typical).toBeGreaterThan(1.1 * lives.untilLeak.typical);
    for (const life of [lives.untilLeak, lives.untilMeter!]) {
      expect(life.low).toBeLessThan(life.typical);
      expect(life.high).toBeGreaterThan(life.typical);
    }
  });
});
