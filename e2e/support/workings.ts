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

/** Opens every working inside a working. */
export async function openAll(within: Locator): Promise<void> {
  for (
    let more = within.getByRole("button", { name: /^Where .* comes from$/, expanded: false });
    (await more.count()) > 0;
  )
    await more.first().click();
}
