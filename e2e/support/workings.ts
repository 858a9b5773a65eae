import type { Locator } from "@playwright/test";
import { evaluateFormula } from "../../core/tests/evaluate-formula";
import { expect } from "./app";

/** A number as it stands on the screen. */
export const shown = (text: string) => Number(text.replaceAll(",", ""));

/** Works out an opened working again from what stands on the screen alone; the workings inside it are others. */
export async function expectWorkingTrue(working: Locator): Promise<void> {
  const { formula, result, lines } = await working.evaluate((node) => {
    const textOf = (within: Element, id: string) =>
      within.querySelector<HTMLElement>(`[data-testid="${id}"]`)!.innerText;
    const own = [...node.querySelectorAll('[data-testid="explain-input"]')].filter(
      (line) => line.closest('[data-testid="working"]') === node,
    );
    return {
      formula: textOf(node, "explain-formula"),
      // A median is no formula's value: what the middle of each figure gives stands beside it.
      result: textOf(node, node.querySelector('[data-testid="explain-middle"]') ? "explain-middle" : "explain-result"),
      lines: own.map((line) => [textOf(line, "explain-symbol"), textOf(line, "explain-value")] as const),
    };
  });
  const inputs = Object.fromEntries(lines.map(([symbol, value]) => [symbol, shown(value)]));
  const again = evaluateFormula(formula, inputs);
  expect(Number(again.toPrecision(3)), `${formula} with ${JSON.stringify(inputs)}`).toBe(shown(result));
}

/** Opens every closed part within whose label matches, and those that come to light: a level at a time. */
export async function openEach(within: Locator, label: RegExp): Promise<void> {
  for (;;) {
    const opened = await within.evaluate((node, source) => {
      const named = new RegExp(source);
      const closed = [...node.querySelectorAll<HTMLElement>('[aria-expanded="false"][aria-label]')];
      const meant = closed.filter((each) => named.test(each.getAttribute("aria-label")!));
      for (const each of meant) each.click();
      return meant.length;
    }, label.source);
    if (opened === 0) return;
    await within.evaluate(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn))));
  }
}

/** Opens every working inside a working. */
export const openAll = (within: Locator) => openEach(within, /^Where .* comes from$/);
