import { fireEvent, screen, within } from "@testing-library/react";
import { unwrap, type SizeInput, type Water } from "@winter-bead/core";
import { crossing, DEFAULT_PRICES, GENERIC_SIZES, size, sizeOf, type RankedOption } from "@winter-bead/core/src/sizing";
import { evaluateFormula } from "../../core/tests/evaluate-formula";
import { OptionCard } from "../features/size/OptionCard";
import { OptionWall } from "../features/size/OptionWall";
import { PaysChart } from "../features/size/PaysChart";
import { PinnedTable } from "../features/size/PinnedTable";
import { TradeOff } from "../features/size/TradeOff";
import type { CrewPrices } from "../features/size/usePrices";
import { More } from "../features/size/More";
import { Measured } from "../ui/Measured";
import { inApp } from "./in-app";

const water = (value: number): Water => ({ reading: { value, scale: "nacl" }, ph: 7.3, alkalinity: 118, silica: 6 });
const work: SizeInput = {
  demand: { items: [{ by: "jobs", name: "houses", perWeek: 22, litresEach: 60, quality: "guessed" }] },
  waters: { low: water(150), typical: water(168), high: water(192) },
  limit: { value: 10, scale: "nacl" },
  peakFlow: 3,
  until: "meter",
};
const { options } = unwrap(size(work));
const named = (name: string): RankedOption => options.find((option) => option.name === name)!;
const tank = named("Tank, virgin resin");
const behindRo = named("Tank, after RO with a booster pump, virgin resin");
const prices: CrewPrices = {
  prices: DEFAULT_PRICES,
  currency: "EUR",
  from: "assumption of 2026-11-25",
  assumed: true,
  list: undefined,
};

/** jsdom lays nothing out: a part that needs its width gets one. */
function withWidth(width: number): void {
  jest.spyOn(HTMLElement.prototype, "offsetWidth", "get").mockReturnValue(width);
  HTMLElement.prototype.getBoundingClientRect = () =>
    ({ width, height: 300, x: 0, y: 0, top: 0, left: 0, right: width, bottom: 300 }) as DOMRect;
}
beforeEach(() => withWidth(360));
afterEach(() => jest.restoreAllMocks());

const card = (option: RankedOption, part: Partial<Parameters<typeof OptionCard>[0]> = {}) => (
  <OptionCard
    option={option}
    work={work}
    prices={prices}
    units="metric"
    pinned={false}
    onPin={() => undefined}
    onKeep={() => undefined}
    {...part}
  />
);

describe("an option's card", () => {
  test("says first what a year costs, as a range, and how often to refill", () => {
    inApp(card(tank));
    const { total } = tank.cost;
    expect(screen.getByTestId("option-cost").textContent).toBe(`€${Math.round(total).toLocaleString("en-US")}`);
    const words = screen.getByTestId("option").textContent!;
    expect(words).toContain(`€${Math.round(tank.costRange.low).toLocaleString("en-US")} to `);
    expect(screen.getByTestId("option-days").textContent).toMatch(
      /Refill every [\d.]+ to [\d.]+ days at the pace of the busiest month/,
    );
    expect(words).toContain("lift it with two");
    expect(screen.queryByTestId("cost-parts")).toBeNull();
  });

  test("opened, its parts add up and each opens to a formula that gives it", () => {
    inApp(card(tank));
    fireEvent.click(screen.getByRole("button", { name: "Every figure" }));
    const details = screen.getByTestId("option-details");
    const lines = within(screen.getByTestId("cost-parts")).getAllByRole("button");
    const amounts = lines.map((line) => Number(/€([\d,]+)/.exec(line.textContent!)![1]!.replaceAll(",", "")));
    const total = amounts.pop()!;
    expect(Math.abs(amounts.reduce((sum, each) => sum + each, 0) - total)).toBeLessThanOrEqual(amounts.length);
    fireEvent.click(within(details).getByTestId("option-ends"));
    for (const line of within(details).getAllByRole("button", { name: /: why$/ })) fireEvent.click(line);
    const workings = within(details).getAllByTestId("working");
    expect(workings.length).toBeGreaterThan(24);
    for (const working of workings) {
      const text = (id: string, of: Element = working) =>
        of.querySelector<HTMLElement>(`[data-testid="${id}"]`)!.textContent!;
      const own = [...working.querySelectorAll('[data-testid="explain-input"]')];
      const inputs = Object.fromEntries(
        own.map((line) => [text("explain-symbol", line), Number(text("explain-value", line).replaceAll(",", ""))]),
      );
      const again = evaluateFormula(text("explain-formula"), inputs);
      expect(Number(again.toPrecision(3))).toBe(Number(text("explain-result").replaceAll(",", "")));
    }
  });

  test("shows both lives, and which of them counts", () => {
    inApp(card(tank));
    fireEvent.click(screen.getByRole("button", { name: "Every figure" }));
    expect(screen.getByTestId("option-lives").textContent).toMatch(/until a meter shows it.*Here the meter counts/);
  });

  test("says that the resin only polishes where the membrane's water is within the limit", () => {
    const { unmount } = inApp(card(behindRo));
    expect(screen.getByTestId("polishes").textContent).toMatch(/within your limit already/);
    fireEvent.click(screen.getByRole("button", { name: "Every figure" }));
    expect(screen.getByTestId("option-details").textContent).toMatch(/Waste water a year.*Power a year.*chlorine/);
    unmount();
    inApp(card(tank));
    expect(screen.queryByTestId("polishes")).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: "Every figure" }));
    expect(screen.getByTestId("option-details").textContent).not.toMatch(/Waste water a year|chlorine/);
  });

  test("can be pinned and kept, and says which it is", () => {
    const done: string[] = [];
    inApp(card(tank, { pinned: true, onPin: () => done.push("pin"), onKeep: () => done.push("keep") }));
    fireEvent.click(screen.getByRole("button", { name: "Unpin" }));
    fireEvent.click(screen.getByRole("button", { name: "Keep as a plan" }));
    expect(done).toEqual(["pin", "keep"]);
  });

  test("in US units speaks of gallons, pounds and psi", () => {
    inApp(card(tank, { units: "us" }));
    fireEvent.click(screen.getByRole("button", { name: "Every figure" }));
    const words = screen.getByTestId("option").textContent!;
    for (const unit of ["US gal a charge", "For 1000 US gal", " lb", " psi", " ft³"]) expect(words).toContain(unit);
  });
});

describe("pinned options", () => {
  const cells = (row: HTMLElement) =>
    within(row)
      .getAllByRole("cell")
      .map((cell) => cell.textContent!);

  test("stand side by side, the best of a line marked and what is nothing everywhere left out", () => {
    const unpinned: string[] = [];
    inApp(
      <PinnedTable options={[tank, behindRo]} currency="EUR" units="metric" onUnpin={(name) => unpinned.push(name)} />,
    );
    const rows = screen.getAllByRole("row");
    const year = cells(rows.find((row) => row.textContent!.startsWith("A year"))!);
    expect(year.map((cell) => cell.includes("◂"))).toEqual([
      tank.cost.total < behindRo.cost.total,
      behindRo.cost.total < tank.cost.total,
    ]);
    const weight = cells(rows.find((row) => row.textContent!.startsWith("Wet weight"))!);
    expect(weight.every((cell) => cell.includes("◂"))).toBe(true);
    fireEvent.click(screen.getByRole("button", { name: `Unpin ${tank.name}` }));
    expect(unpinned).toEqual([tank.name]);
    expect(rows.some((row) => row.textContent!.startsWith("Waste water"))).toBe(true);
  });

  test("without a membrane have no line of waste, and alone nothing is marked", () => {
    inApp(<PinnedTable options={[tank]} currency="EUR" units="metric" onUnpin={() => undefined} />);
    const words = screen.getByTestId("pinned").textContent!;
    expect(words).not.toMatch(/Waste|◂/);
    expect(words).toContain("pin another beside it");
  });

  test("of nothing are nothing", () => {
    inApp(<PinnedTable options={[]} currency="EUR" units="metric" onUnpin={() => undefined} />);
    expect(screen.queryByTestId("pinned")).toBeNull();
  });
});

describe("drawings", () => {
  test("the trade-off has a dot for every option, the beaten ones faded and small, and numbers that don't touch", () => {
    const feasible = options.filter((option) => option.feasible);
    inApp(<TradeOff options={feasible} currency="EUR" label="the trade-off" />);
    const chart = screen.getByRole("img", { name: "the trade-off" });
    const dots = [...chart.querySelectorAll("circle")];
    expect(dots).toHaveLength(feasible.length);
    const radii = dots.map((dot) => Number(dot.getAttribute("r")));
    expect(radii.filter((r) => r === 5)).toHaveLength(feasible.filter(({ dominated }) => !dominated).length);
    expect(chart.textContent).toContain("EUR a year");
  });

  test("the two costs cross where they were found to, and the tap stands at its feed", () => {
    const found = unwrap(
      crossing({
        work: { ...work, demand: { items: [{ by: "jobs", perWeek: 3, litresEach: 60, quality: "guessed" }] } },
        option: { vessel: sizeOf(GENERIC_SIZES[4]!), train: "single", grade: "virgin", supply: "bag" },
      }),
    );
    const meets = found.paysFrom.typical!;
    inApp(
      <PaysChart curve={found.curve} feed={found.feed} meets={meets} scale="ec" currency="EUR" label="two curves" />,
    );
    const chart = screen.getByRole("img", { name: "two curves" });
    const [tap] = [...chart.querySelectorAll("rect")];
    const x = (ec25: number) => {
      const [from, to] = [found.curve[0]!.ec25, found.curve[found.curve.length - 1]!.ec25];
      return 52 + ((ec25 - from) / (to - from)) * (360 - 12 - 52);
    };
    expect(Number(tap!.getAttribute("x"))).toBeCloseTo(x(found.feed.low), 3);
    expect(Number(tap!.getAttribute("width"))).toBeCloseTo(x(found.feed.high) - x(found.feed.low), 3);
    const [mark] = [...chart.querySelectorAll("circle")];
    expect(Number(mark!.getAttribute("cx"))).toBeCloseTo(x(meets), 3);
    expect(chart.textContent).toMatch(/resin alone.*behind RO/);
  });

  test("where nothing meets there is no mark", () => {
    const point = { alone: { low: 1, typical: 2, high: 3 }, behind: { low: 4, typical: 5, high: 6 } };
    const curve = [30, 200, 400].map((ec25) => ({ ec25, ...point }));
    const feed = { low: 100, typical: 120, high: 150 };
    inApp(<PaysChart curve={curve} feed={feed} meets={undefined} scale="nacl" currency="EUR" label="apart" />);
    expect(screen.getByRole("img", { name: "apart" }).querySelector("circle")).toBeNull();
  });
});

test("what not everybody needs opens with its words and closes with them", () => {
  inApp(
    <More label="Lifting, budget">
      <Measured>{(width) => <p>{`inside ${width}`}</p>}</Measured>
    </More>,
  );
  expect(screen.queryByText(/inside/)).toBeNull();
  fireEvent.click(screen.getByRole("button", { name: "Lifting, budget" }));
  expect(screen.getByText("inside 360")).toBeTruthy();
  fireEvent.click(screen.getByRole("button", { name: "Close: lifting, budget" }));
  expect(screen.queryByText(/inside/)).toBeNull();
});

describe("the wall of options", () => {
  const wall = (width = 400) => {
    withWidth(width);
    inApp(<OptionWall options={options.filter(({ feasible }) => feasible)} units="metric" />);
    return screen.getByTestId("option-wall");
  };
  test("hangs the best of each kind once, with as many ticks as it has refills in a year", () => {
    const drawing = within(wall()).getByRole("img");
    const words = drawing.getAttribute("aria-label")!.split("; ");
    expect(words.length).toBeGreaterThan(2);
    expect(new Set(words).size).toBe(words.length);
    const refills = words.map((each) => Number(/(\d+) refills? a year/.exec(each)?.[1] ?? 0));
    const numbers = [...drawing.querySelectorAll("text")].map((each) => each.textContent);
    for (const count of refills.filter((each) => each > 1)) expect(numbers).toContain(String(count));
    const ticks = [...drawing.querySelectorAll("line")].filter(
      (each) => each.getAttribute("x1") === each.getAttribute("x2"),
    );
    expect(ticks.length).toBe(refills.reduce((sum, each) => sum + Math.min(60, each), 0));
  });
  test("is not hung for one alone", () => {
    withWidth(400);
    inApp(<OptionWall options={[tank]} units="metric" />);
    expect(screen.queryByTestId("option-wall")).toBeNull();
  });
});
