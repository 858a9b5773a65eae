import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";

/** What the checker of accessibility finds on a page as it stands, by WCAG 2.2 AA and best practices. */
export async function violationsOn(page: Page): Promise<readonly string[]> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"])
    .options({ resultTypes: ["violations"] })
    // There are no frames: asked in the page itself, it needs no second one each time.
    .setLegacyMode(true)
    .analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 160)).join(" | ")}`);
}
