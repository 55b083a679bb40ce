import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/**
 * What axe finds wrong with a page as it is now, a line each. In its older way of running, all in the page itself: it says the same
 * where no frame is of another origin, as here, in a third of the time.
 */
export async function faultsOf(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ['violations'] }).analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html.slice(0, 140)).join(' | ')}`);
}
